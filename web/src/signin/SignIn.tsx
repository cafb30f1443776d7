import { useState, type FormEvent, type ReactNode } from "react";
import styled from "styled-components";
import { api, got, wentWrong, type Me } from "../api/client";
import { Text } from "../parts/Fields";
import { Plain, Strong } from "../parts/Buttons";
import { EvenMark } from "../parts/Marks";
import { Complaint, Dialogue } from "../parts/Sheets";

const Page = styled.main`
  min-height: 100%;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  @media (max-width: 50em) {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Face = styled.div`
  display: grid;
  align-content: center;
  gap: 1.25rem;
  padding: 3rem;
  background: ${(p) => p.theme.sheet};
  border-right: 0.125rem solid ${(p) => p.theme.ink};
  h1 {
    font-size: 3.25rem;
    line-height: 1;
  }
  p {
    font-size: 1.375rem;
    max-width: 24em;
  }
`;

const Form = styled.form`
  align-self: center;
  display: grid;
  gap: 1.125rem;
  padding: 3rem;
  width: min(30rem, 100%);
  h2 {
    font-size: 1.625rem;
  }
`;

interface SignInProps {
  name?: string;
  /** Over the screen that is open, so that nothing on it is lost. */
  over?: boolean;
  onSignedIn: (me: Me) => void;
  onClose?: () => void;
}

export function SignIn({ name: known = "", over = false, onSignedIn, onClose }: SignInProps) {
  const [name, setName] = useState(known);
  const [password, setPassword] = useState("");
  const [wrong, setWrong] = useState("");
  const [second, setSecond] = useState<string>();
  const [busy, setBusy] = useState(false);

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (busy) return;
    if (!name.trim() || !password) {
      setWrong("Enter your name and your password.");
      return;
    }
    setBusy(true);
    setWrong("");
    try {
      const answer = await api.POST("/sign-in", { body: { name, password, second: second || undefined } });
      if (answer.error?.type === "second-factor" && second === undefined) {
        setSecond("");
        setBusy(false);
        return;
      }
      onSignedIn(got(answer));
    } catch (err) {
      setWrong(wentWrong(err));
      setBusy(false);
    }
  };

  const fields = (
    <>
      <Text
        label="Name"
        value={name}
        onChange={setName}
        most={80}
        autoComplete="username"
        first={!known}
        lowerCase
      />
      <Text
        label="Password"
        value={password}
        onChange={setPassword}
        most={200}
        type="password"
        autoComplete="current-password"
        first={!!known}
      />
      {second !== undefined && (
        <Text
          label="Six digits of your authenticator, or a spare code"
          value={second}
          onChange={setSecond}
          most={40}
          autoComplete="one-time-code"
          first
        />
      )}
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      <Strong type="submit">{busy ? "Signing in …" : "Sign in"}</Strong>
    </>
  );

  if (over) {
    return (
      <Dialogue title="Sign in again" open onClose={onClose ?? (() => undefined)}>
        <p>What you recorded is on this device and is sent as soon as you are in.</p>
        <Form as="form" onSubmit={(e: FormEvent) => void submit(e)} style={{ padding: 0, width: "100%" }}>
          {fields}
          <Plain onPress={onClose}>Later</Plain>
        </Form>
      </Dialogue>
    );
  }
  return (
    <Welcome title="Sign in" onSubmit={(e) => void submit(e)}>
      {fields}
    </Welcome>
  );
}

interface WelcomeProps {
  title: string;
  onSubmit: (event: FormEvent) => void;
  children: ReactNode;
}

/** The page before anybody is in: what this is, and a form beside it. */
export const Welcome = ({ title, onSubmit, children }: WelcomeProps) => (
  <Page>
    <Face>
      <EvenMark size={150} />
      <h1>Even Steps</h1>
      <p>Into a machine and back out of it. What came off is back, counted and proven.</p>
    </Face>
    <Form onSubmit={onSubmit}>
      <h2>{title}</h2>
      {children}
    </Form>
  </Page>
);
