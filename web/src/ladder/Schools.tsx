import { useState } from "react";
import type { Side } from "../api/client";
import { Plain } from "../parts/Buttons";
import { Noted } from "./rungShapes";

/** How we do it, and why; how others do, one touch away. */
export function Schools({ schools }: { schools: Side["schools"] }) {
  const [all, setAll] = useState(false);
  return (
    <Noted as="div">
      {(all ? schools : schools.slice(0, 1)).map((s, i) => (
        <div key={s.say}>
          <b>{i === 0 ? "Our way: " : "Others: "}</b>
          {s.say} <em>Why: {s.why}.</em>
        </div>
      ))}
      <Plain aria-expanded={all} onPress={() => setAll(!all)}>
        {all ? "Our way alone" : "How others do it"}
      </Plain>
    </Noted>
  );
}
