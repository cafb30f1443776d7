import { useState, type FormEvent } from "react";
import { api, got, wentWrong, type Me } from "../api/client";
import { Text } from "../parts/Fields";
import { Strong } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { least } from "./session";
import { Welcome } from "./SignIn";

/** After a one-time code: a password of one's own, before anything else. */
export function ChooseOwn({ me, onChosen }: { me: Me; onChosen: () => void }) {
  const [first, setFirst] = useState("");
  const [again, setAgain] = useState("");
  const [wrong, setWrong] = useState("");

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (first.length < least) {
      setWrong(`The password needs at least ${least} letters.`);
      return;
    }
    if (first !== again) {
      setWrong("The two are not the same. Write it again.");
      return;
    }
    try {
      got(await api.POST("/me/password", { body: { new: first } }));
      onChosen();
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };

  return (
    <Welcome title="Choose a password" onSubmit={(e) => void submit(e)}>
      <p>{me.name}, the code is used up. From now on you sign in with a password of your own.</p>
      {/* So that whoever keeps passwords knows whose it is. */}
      <input type="hidden" name="username" autoComplete="username" value={me.id} />
      <Text
        label={`Your password, at least ${least} letters`}
        value={first}
        onChange={setFirst}
        most={200}
        type="password"
        autoComplete="new-password"
        first
      />
      <Text
        label="The same again"
        value={again}
        onChange={setAgain}
        most={200}
        type="password"
        autoComplete="new-password"
      />
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      <Strong type="submit">Keep it</Strong>
    </Welcome>
  );
}
