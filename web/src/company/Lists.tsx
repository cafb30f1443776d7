import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import styled from "styled-components";
import { api, got, wentWrong, type Imported } from "../api/client";
import { Plain, Strong } from "../parts/Buttons";
import { Beside } from "../parts/Form";
import { Group, Row } from "../parts/Rows";
import { Complaint } from "../parts/Sheets";
import { save } from "../parts/save";

const tables = [
  { name: "people", says: "sign_in, name, role, tickets, closed" },
  { name: "sites", says: "id, name, address, island, ferry, contact, phone, access" },
  { name: "machines", says: "id, site, name, model, serial, map, stands, options" },
  { name: "meters", says: "id, name, category, accuracy, calibrated, due" },
] as const;

type Table = (typeof tables)[number]["name"];

const Does = styled.ol`
  display: grid;
  gap: 0.125rem;
  max-height: 26.25rem;
  overflow: auto;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  li {
    display: grid;
    grid-template-columns: 5.25rem 6rem minmax(0, 1fr);
    gap: 0.625rem;
    padding: 0.375rem 0.75rem;
    font-size: ${(p) => p.theme.glance};
    border-bottom: 0.0625rem solid ${(p) => p.theme.rule};
  }
  li[data-does="wrong"] {
    background: ${(p) => p.theme.stopOn};
    color: ${(p) => p.theme.stop};
  }
`;

interface Chosen {
  table: Table;
  name: string;
  text: Blob;
  would: Imported;
}

const sentFile = async (table: Table, file: Blob, trial: boolean) =>
  got(
    await api.POST("/tables/{table}", {
      params: { path: { table }, query: { trial } },
      headers: { "Content-Type": "text/csv" },
      body: file as unknown as string,
      bodySerializer: (body) => body,
    }),
  );

/** The company's lists, out as CSV and in again: first what a file would do, then all of it or nothing. */
export function Lists() {
  const queries = useQueryClient();
  const [chosen, setChosen] = useState<Chosen>();
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const act = async (what: () => Promise<void>) => {
    setBusy(true);
    setWrong("");
    try {
      await what();
    } catch (err) {
      setWrong(wentWrong(err));
    } finally {
      setBusy(false);
    }
  };
  const out = (table: Table) =>
    act(async () => {
      const answer = await api.GET("/tables/{table}", { params: { path: { table } }, parseAs: "text" });
      save(`${table}.csv`, "text/csv", got(answer));
    });
  const look = (table: Table, file: File) =>
    act(async () => {
      setChosen(undefined);
      setChosen({ table, name: file.name, text: file, would: await sentFile(table, file, true) });
    });
  const take = (c: Chosen) =>
    act(async () => {
      setChosen({ ...c, would: await sentFile(c.table, c.text, false) });
      await queries.invalidateQueries();
    });
  return (
    <section aria-label="Lists as files">
      <Group>Lists as files: CSV, with a line of headings</Group>
      {tables.map((t) => (
        <Row key={t.name}>
          <div>
            <h3>{t.name[0]?.toUpperCase() + t.name.slice(1)}</h3>
            <p>{t.says}</p>
          </div>
          <Plain isDisabled={busy} onPress={() => void out(t.name)} aria-label={`Save as a file: ${t.name}`}>
            Save as a file
          </Plain>
          <FileTrigger
            acceptedFileTypes={[".csv", "text/csv"]}
            onSelect={(files) => {
              const file = files?.[0];
              if (file) void look(t.name, file);
            }}
          >
            <Plain isDisabled={busy} aria-label={`Look at a file: ${t.name}`}>
              Look at a file
            </Plain>
          </FileTrigger>
        </Row>
      ))}
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      {busy && <p role="status">Reading the file …</p>}
      {chosen && (
        <Would
          chosen={chosen}
          busy={busy}
          onTake={() => void take(chosen)}
          onDrop={() => setChosen(undefined)}
        />
      )}
    </section>
  );
}

interface WouldProps {
  chosen: Chosen;
  busy: boolean;
  onTake: () => void;
  onDrop: () => void;
}

const lines = (n: number, what: string) => n > 0 && `${n} ${what}`;

/** What a file would do, line by line; what is wrong comes first. */
function Would({ chosen, busy, onTake, onDrop }: WouldProps) {
  const w = chosen.would;
  const counts = [
    lines(w.added, "new"),
    lines(w.changed, "changed"),
    lines(w.same, "as they are"),
    lines(w.wrong, "wrong"),
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <section aria-label={`What ${chosen.name} does`}>
      <div role="status">
        <Group>
          {w.kept ? `Kept: ${chosen.name}` : `${chosen.name} would do this`}{" "}
          <span>{counts || "nothing"}</span>
        </Group>
      </div>
      {w.wrong > 0 && (
        <Complaint role="alert">
          Nothing of this file is kept until every line can be taken. Mend the lines below in the file, and
          look at it again.
        </Complaint>
      )}
      <Does tabIndex={0} aria-label="Line by line">
        {w.lines.map((l) => (
          <li key={`${l.line}-${l.does}`} data-does={l.does}>
            <span>line {l.line}</span>
            <b>{l.does}</b>
            <span>{[l.what, ...l.says].filter(Boolean).join(" · ")}</span>
          </li>
        ))}
      </Does>
      {w.more > 0 && <p>and {w.more} more lines</p>}
      <Beside>
        {!w.kept && w.wrong === 0 && w.added + w.changed > 0 && (
          <Strong isDisabled={busy} onPress={onTake}>
            {`Keep it: ${counts}`}
          </Strong>
        )}
        <Plain onPress={onDrop}>{w.kept ? "Done" : "Leave it"}</Plain>
      </Beside>
    </section>
  );
}
