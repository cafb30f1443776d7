import { useState, type FormEvent } from "react";
import styled from "styled-components";
import { api, got, wentWrong } from "../api/client";
import { Text } from "../parts/Fields";
import { Plain, Strong } from "../parts/Buttons";
import { Complaint, Dialogue } from "../parts/Sheets";
import { least } from "./session";

const Form = styled.form`
  display: grid;
  gap: 0.875rem;
`;

/** Changes one's own password; it ends one's sessions on other devices. */
export function ChangePassword({ onClose }: { onClose: () => void }) {
  const [old, setOld] = useState("");
  const [now, setNow] = useState("");
  const [wrong, setWrong] = useState("");
  const [done, setDone] = useState(false);

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (now.length < least) {
      setWrong(`The new password needs at least ${least} letters.`);
      return;
    }
    try {
      got(await api.POST("/me/password", { body: { old, new: now } }));
      setDone(true);
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };

  return (
    <Dialogue title="Change your password" open onClose={onClose}>
      {done ? (
        <>
          <p>
            It is changed. Other devices ask for the new one; what was recorded on them stays there until
            then.
          </p>
          <Strong onPress={onClose}>Good</Strong>
        </>
      ) : (
        <Form onSubmit={(e) => void submit(e)}>
          <Text
            label="The old one"
            value={old}
            onChange={setOld}
            most={200}
            type="password"
            autoComplete="current-password"
            first
          />
          <Text
            label={`The new one, at least ${least} letters`}
            value={now}
            onChange={setNow}
            most={200}
            type="password"
            autoComplete="new-password"
          />
          {wrong && <Complaint role="alert">{wrong}</Complaint>}
          <Strong type="submit">Change it</Strong>
          <Plain onPress={onClose}>Leave it</Plain>
        </Form>
      )}
    </Dialogue>
  );
}
