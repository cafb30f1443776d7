import { useNavigate } from "react-router";
import { withdrawing, type View } from "../api/client";
import { useRecord } from "../job/here";
import { Plain, Strong } from "../parts/Buttons";
import { Complaint } from "../parts/Sheets";
import { Middle } from "./Middle";

/** Nothing is on: the ladder is climbed, or there is no way on. */
export function Ended({ view }: { view: View }) {
  const record = useRecord();
  const go = useNavigate();
  const { current } = view;
  if (current.kind === "stuck") {
    return (
      <Middle>
        <h1>No next step possible</h1>
        <Complaint>{current.say}</Complaint>
        <p>Undo the last record, say that a barred side can be done after all, or call your supervisor.</p>
        {view.snags
          .filter((s) => s.kind === "barred")
          .map((s) => (
            <Plain key={s.id} onPress={() => void record(withdrawing([s.event]))}>
              It can be done after all: {s.say}
            </Plain>
          ))}
      </Middle>
    );
  }
  if (current.kind === "called-off") {
    return (
      <Middle>
        <h1>This job is called off</h1>
        <p>{current.say}.</p>
        <Strong onPress={() => void record(withdrawing(view.about.again))}>Take it up again</Strong>
      </Middle>
    );
  }
  if (current.kind === "find") {
    return (
      <Middle>
        <h1>What is wrong?</h1>
        <p>{current.say}</p>
        <Strong onPress={() => void go(`/jobs/${view.job}/find`)}>See the next test</Strong>
      </Middle>
    );
  }
  return (
    <Middle>
      <h1>{view.headline}</h1>
      <p>{view.standing}</p>
      <Strong onPress={() => void go(`/jobs/${view.job}/even`)}>
        {view.signed ? "See the sheet" : "To sign-off"}
      </Strong>
    </Middle>
  );
}
