import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { api, got, isOver, wentWrong, type MachineJob, type MachinePage as Page } from "../api/client";
import { Plain, Strong } from "../parts/Buttons";
import { Beside } from "../parts/Form";
import { Hall } from "../parts/Hall";
import { Group, Row, Warn } from "../parts/Rows";
import { Complaint } from "../parts/Sheets";
import { clock } from "../parts/text";
import { useSession } from "../signin/session";
import { MachineForm } from "./forms";
import { Merging } from "./Merging";

const Facts = styled.dl`
  display: grid;
  grid-template-columns: max-content minmax(0, 1fr);
  gap: 0.25rem 1.125rem;
  padding: 0.75rem 1.125rem;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  dt {
    color: ${(p) => p.theme.inkQuiet};
  }
  dd {
    white-space: pre-line;
  }
  a {
    color: ${(p) => p.theme.ink};
  }
`;

const Did = styled.ul`
  flex: 1 1 100%;
  padding-left: 1.2em;
  list-style: disc;
  font-size: ${(p) => p.theme.glance};
`;

const All = styled(Link)`
  padding: 1rem 0;
  color: ${(p) => p.theme.ink};
`;

function JobOn({ job }: { job: MachineJob }) {
  const go = useNavigate();
  const did = job.did.filter((d) => d !== job.headline);
  return (
    <Row $quiet={job.stage === "called-off"}>
      <div>
        <h3>
          {clock(job.at)} · {job.words ? `“${job.words}”` : job.headline}
        </h3>
        <p>
          {[job.words && job.headline, job.whose.length > 0 && job.whose.join(", "), `job ${job.id}`]
            .filter(Boolean)
            .join(" · ")}
        </p>
        {job.stage === "open" && <Warn>The machine is open. {job.standing}</Warn>}
      </div>
      <Plain
        onPress={() => void go(job.stage === "signed" ? `/jobs/${job.id}/even` : `/jobs/${job.id}`)}
        aria-label={`Open the job ${job.id}`}
      >
        {job.stage === "signed" ? "See" : "Open"}
      </Plain>
      {did.length > 0 && (
        <Did>
          {did.map((d, i) => (
            <li key={i}>{d}</li>
          ))}
        </Did>
      )}
    </Row>
  );
}

/** One machine: where it stands, all that happened to it, its next visit; from here a call. */
export function MachinePage() {
  const { machine = "" } = useParams();
  const go = useNavigate();
  const queries = useQueryClient();
  const { me } = useSession();
  const [changing, setChanging] = useState(false);
  const [merging, setMerging] = useState(false);
  const [wrong, setWrong] = useState("");
  const page = useQuery({
    queryKey: ["machine", machine],
    queryFn: async () => got(await api.GET("/machines/{machine}", { params: { path: { machine } } })),
    retry: false,
  });
  const again = () => {
    setChanging(false);
    setMerging(false);
    void queries.invalidateQueries({ queryKey: ["machine"] });
    void queries.invalidateQueries({ queryKey: ["places"] });
  };
  const part = async (id: string) => {
    setWrong("");
    try {
      const params = { path: { machine: id } };
      got(await api.POST("/machines/{machine}/merge", { params, body: { into: "" } }));
      again();
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };
  const m = page.data;
  const may = me.role === "supervisor";
  const next = m?.jobs.filter((j) => !isOver(j.stage)) ?? [];
  const past = m?.jobs.filter((j) => isOver(j.stage)) ?? [];
  return (
    <Hall
      title={m ? `${m.place.name}, ${m.name}` : "Machine"}
      note={m && [m.model, m.serial].filter(Boolean).join(" · ")}
    >
      {page.isError && <Complaint role="alert">{wentWrong(page.error)}</Complaint>}
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      {m && (
        <>
          <Beside>
            <Strong onPress={() => void go(`/call?machine=${m.id}`)}>Take a call for it</Strong>
            {may && <Plain onPress={() => setChanging(true)}>Change</Plain>}
            {may && <Plain onPress={() => setMerging(true)}>It is the same as another</Plain>}
            <All to="/sites">All sites</All>
          </Beside>
          <Known m={m} />
          <section aria-label="Now">
            <Group>{next.length > 0 ? "Now, and next" : "No job is open on it"}</Group>
            {next.map((j) => (
              <JobOn key={j.id} job={j} />
            ))}
          </section>
          {past.length > 0 && (
            <section aria-label="Before">
              <Group>Before</Group>
              {past.map((j) => (
                <JobOn key={j.id} job={j} />
              ))}
            </section>
          )}
          {m.merged.map((o) => (
            <Row key={o.id} $quiet>
              <div>
                <p>
                  Found to be this machine: {o.name}, {[o.model, o.serial, o.id].filter(Boolean).join(" · ")}
                </p>
              </div>
              {may && <Plain onPress={() => void part(o.id)}>It is one of its own after all</Plain>}
            </Row>
          ))}
          {changing && <Changing m={m} onClose={again} />}
          {merging && <Merging m={m} onClose={again} />}
        </>
      )}
    </Hall>
  );
}

function Known({ m }: { m: Page }) {
  const options = m.options_of.filter((o) => m.options[o.id]);
  const rows: [string, string][] = [
    ["Where it stands", m.stands],
    ["Address", m.place.address],
    ["Island or town", [m.place.island, m.place.ferry].filter(Boolean).join(" · ")],
    ["Contact", m.place.contact],
    ["How to get in", m.place.access],
    ["Map", m.map_is || "none covers it: it is worked by the nearest of its kind, or without one"],
    ...options.map((o): [string, string] => [o.ask, m.options[o.id] ?? ""]),
  ];
  return (
    <Facts>
      {rows
        .filter(([, say]) => say !== "")
        .map(([what, say]) => (
          <div key={what} style={{ display: "contents" }}>
            <dt>{what}</dt>
            <dd>{say}</dd>
          </div>
        ))}
      {m.place.phone && (
        <>
          <dt>Telephone</dt>
          <dd>
            <a href={`tel:${m.place.phone.replace(/[^+0-9]/g, "")}`}>{m.place.phone}</a>
          </dd>
        </>
      )}
    </Facts>
  );
}

function Changing({ m, onClose }: { m: Page; onClose: () => void }) {
  const places = useQuery({ queryKey: ["places"], queryFn: async () => got(await api.GET("/places")) });
  return (
    <MachineForm
      of={m}
      site={m.site}
      places={places.data?.places ?? [m.place]}
      maps={m.maps}
      options={m.options_of}
      onClose={onClose}
    />
  );
}
