import { useState } from "react";
import styled from "styled-components";
import { api, got } from "../api/client";
import { Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Form } from "../parts/Form";
import { OwnPassword } from "./OwnPassword";

const Qr = styled.img`
  width: 15rem;
  image-rendering: pixelated;
`;

const Secret = styled.output`
  font: 700 1.125rem/1.4 ${(p) => p.theme.mono};
  overflow-wrap: anywhere;
`;

const Spares = styled.ol`
  columns: 2;
  padding-left: 2rem;
  font: 700 1.125rem/1.9 ${(p) => p.theme.mono};
`;

/** Begins a second factor: one's password, then the authenticator, its digits, and the spare codes. */
export function SecondFactor({ onDone }: { onDone: () => void }) {
  const [password, setPassword] = useState("");
  const [begun, setBegun] = useState<{ secret: string; picture: string }>();
  const [digits, setDigits] = useState("");
  const [spares, setSpares] = useState<string[]>();

  if (spares) {
    return (
      <>
        <p>
          <b>Spare codes, each good once.</b> Write them down and keep them where the phone is not: with one
          of them you sign in when the authenticator is lost. They are shown this once.
        </p>
        <Spares>
          {spares.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </Spares>
        <Strong onPress={onDone}>I have them</Strong>
      </>
    );
  }
  if (!begun) {
    return (
      <Form
        label="Go on"
        keep={async () => setBegun(got(await api.POST("/me/second", { body: { password } })))}
      >
        <p>After the password you then enter six digits that an authenticator on your phone shows.</p>
        <OwnPassword value={password} onChange={setPassword} />
      </Form>
    );
  }
  return (
    <Form
      label="It shows these"
      keep={async () => setSpares(got(await api.PUT("/me/second", { body: { digits } })).spares)}
    >
      <p>Let the authenticator read this, or type the letters into it. Then enter the six digits it shows.</p>
      <Qr src={begun.picture} alt="The secret as a QR code" />
      <Secret>{begun.secret}</Secret>
      <Text
        label="Six digits"
        autoComplete="one-time-code"
        most={12}
        value={digits}
        onChange={setDigits}
        first
      />
    </Form>
  );
}
