import { withdrawing, type Find, type Proposal } from "../api/client";
import { useRecord } from "../job/here";
import { Plain } from "../parts/Buttons";
import { Rows } from "./findShapes";
import { minutes } from "./minutes";

interface OthersProps {
  rest: Proposal[];
  onLook: (title: string) => void;
}

/** The next best tests, each one touch away. */
export function Others({ rest, onLook }: OthersProps) {
  if (rest.length === 0) return null;
  return (
    <>
      <h2>Other tests</h2>
      <Rows>
        {rest.slice(0, 5).map((p) => (
          <li key={p.title}>
            <span>
              {p.title}
              <small>
                {p.test
                  ? p.gain >= 0.1
                    ? `worth about ${minutes(p.gain)} in all`
                    : "costs more than it saves"
                  : minutes(p.minutes)}
              </small>
            </span>
            <Plain onPress={() => onLook(p.title)} aria-label={`Look at: ${p.title}`}>
              Look
            </Plain>
          </li>
        ))}
      </Rows>
    </>
  );
}

/** What the tests have shown so far; each can be taken back. */
export function Results({ find }: { find: Find }) {
  const record = useRecord();
  if (find.results.length === 0) return null;
  return (
    <>
      <h2>Results</h2>
      <Rows>
        {find.results.map((r) => (
          <li key={r.event}>
            <span>
              {r.title}
              <small>{r.say}</small>
            </span>
            <Plain onPress={() => void record(withdrawing([r.event]))} aria-label={`Take back: ${r.title}`}>
              Take back
            </Plain>
          </li>
        ))}
      </Rows>
    </>
  );
}
