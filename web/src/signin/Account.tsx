import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got, wentWrong } from "../api/client";
import { Plain } from "../parts/Buttons";
import { Beside, Form } from "../parts/Form";
import { Hall } from "../parts/Hall";
import { Group, Row, Warn } from "../parts/Rows";
import { Complaint, Dialogue } from "../parts/Sheets";
import { clock } from "../parts/text";
import { ChangePassword } from "./ChangePassword";
import { OwnPassword } from "./OwnPassword";
import { SecondFactor } from "./SecondFactor";

/** What kind of device it is, as far as its browser says so. */
const kindOf = (agent: string) => (/mobi/i.test(agent) ? "a phone or tablet" : "a computer");

/** One’s own account: password, second factor, and where one is signed in. */
export function Account() {
  const queries = useQueryClient();
  const [open, setOpen] = useState<"password" | "begin" | "end">();
  const [wrong, setWrong] = useState("");
  const account = useQuery({
    queryKey: ["account"],
    queryFn: async () => got(await api.GET("/me/account")),
    retry: false,
  });
  const again = () => queries.invalidateQueries({ queryKey: ["account"] });
  const close = () => {
    setOpen(undefined);
    void again();
  };
  const end = async (session: string) => {
    setWrong("");
    try {
      got(await api.DELETE("/me/sessions/{session}", { params: { path: { session } } }));
    } catch (err) {
      setWrong(wentWrong(err));
    }
    await again();
  };
  const { second = false, spares = 0, sessions = [] } = account.data ?? {};
  return (
    <Hall title="Your account" note="password, second factor, where you are signed in">
      {account.isError && <Complaint role="alert">{wentWrong(account.error)}</Complaint>}
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      <Group>Signing in</Group>
      {account.data && (
        <Row>
          <div>
            <h2>Second factor</h2>
            <p>
              {second
                ? `Six digits of your authenticator are asked for after the password. ${spares} spare codes are left.`
                : "None: the password alone lets in."}
            </p>
            {second && spares < 3 && <Warn>Few spare codes are left. Begin another to get new ones.</Warn>}
          </div>
          <Plain onPress={() => setOpen("begin")}>{second ? "Begin another" : "Begin one"}</Plain>
          {second && <Plain onPress={() => setOpen("end")}>Do without</Plain>}
        </Row>
      )}
      <Beside>
        <Plain onPress={() => setOpen("password")}>Change the password</Plain>
      </Beside>
      <Group>
        Where you are signed in <span>{sessions.length}</span>
      </Group>
      {sessions.map((s) => (
        <Row key={s.id}>
          <div>
            <h2>{s.this ? "Here" : s.address || "An earlier sign-in"}</h2>
            <p>
              {[kindOf(s.device), `since ${clock(s.made)}`, `last used ${clock(s.seen)}`]
                .filter(Boolean)
                .join(" · ")}
            </p>
          </div>
          {!s.this && (
            <Plain
              onPress={() => void end(s.id)}
              aria-label={`End the session ${s.address}, since ${clock(s.made)}`}
            >
              End it
            </Plain>
          )}
        </Row>
      ))}
      {open === "password" && <ChangePassword onClose={close} />}
      <Dialogue title="A second factor" open={open === "begin"} onClose={close}>
        <SecondFactor onDone={close} />
        <Plain onPress={close}>Leave it</Plain>
      </Dialogue>
      <Dialogue title="Do without the second factor" open={open === "end"} onClose={close}>
        <EndSecond onDone={close} />
      </Dialogue>
    </Hall>
  );
}

function EndSecond({ onDone }: { onDone: () => void }) {
  const [password, setPassword] = useState("");
  return (
    <Form
      label="Do without"
      keep={async () => {
        got(await api.POST("/me/second/end", { body: { password } }));
        onDone();
      }}
    >
      <OwnPassword value={password} onChange={setPassword} />
    </Form>
  );
}
