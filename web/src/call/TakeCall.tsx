import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import styled from "styled-components";
import { v7 as uuid } from "uuid";
import { api, got, wentWrong, type CallHeard, type Place } from "../api/client";
import { Choice, Plain, Strong } from "../parts/Buttons";
import { Hall } from "../parts/Hall";
import { Complaint, Field } from "../parts/Sheets";
import { keepPhoto } from "../parts/photo";
import { words as ticketWords } from "../parts/text";
import { phone } from "../parts/theme";

const Two = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 0.875rem 1.75rem;
  align-items: start;
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
  }
  section {
    display: grid;
    gap: 0.625rem;
  }
  h2 {
    font-size: 1.3125rem;
    line-height: 1.15;
  }
  p {
    color: ${(p) => p.theme.inkQuiet};
    font-size: ${(p) => p.theme.glance};
  }
`;

const Choices = styled.div`
  display: grid;
  gap: 0.375rem;
`;

const Beside = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
`;

const Lines = styled.ul`
  background: ${(p) => p.theme.sheet};
  font-size: ${(p) => p.theme.glance};
  li {
    padding: 0.375rem 0.75rem;
  }
  li + li {
    border-top: 0.0625rem solid ${(p) => p.theme.rule};
  }
`;

const Plate = styled.img`
  max-width: 100%;
  max-height: 11.25rem;
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
`;

/** A complaint, and that it is one of several. */
const WithAlso = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.5rem;
  > :only-child {
    grid-column: 1 / -1;
  }
`;

/** Hazards somebody now: red, and before all else. */
const Danger = styled.div`
  display: grid;
  gap: 0.5rem;
  padding: 0.875rem 1rem;
  background: ${(p) => p.theme.stopGround};
  color: ${(p) => p.theme.stopText};
  p {
    color: inherit;
  }
  h2 {
    font-size: 1.5rem;
  }
  ol {
    display: grid;
    gap: 0.375rem;
    padding-left: 1.3em;
    font-size: 1.125rem;
    line-height: 1.3;
  }
`;

interface Where {
  site: string;
  appliance: string;
  label: string;
}

const few = 5;

/** A pause in typing, in milliseconds, after which the core is asked what it means. */
const pause = 400;

/** A value once it has stayed the same for a pause. */
function useSettled<T>(value: T): T {
  const text = JSON.stringify(value);
  const [settled, setSettled] = useState(text);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(text), pause);
    return () => clearTimeout(timer);
  }, [text]);
  return JSON.parse(settled) as T;
}

const allOf = (places: Place[]) =>
  places.flatMap((p) =>
    p.machines.map((m) => ({
      site: p.id,
      appliance: m.id,
      label: `${p.name}, ${m.name} · ${m.model} · ${m.serial}`,
      all: `${p.name} ${p.island} ${m.name} ${m.model} ${m.serial}`.toLowerCase(),
    })),
  );

/** The machines that a few letters mean: any of site, island, name, model and serial. */
function meant(places: Place[], text: string): Where[] {
  const parts = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (parts.length === 0) return [];
  return allOf(places).filter((m) => parts.every((part) => m.all.includes(part)));
}

/** A customer on the telephone: where, what, in their words; what it means; what to ask before anybody sets out. */
export function TakeCall() {
  const go = useNavigate();
  const queries = useQueryClient();
  const [asked] = useSearchParams();
  const instead = asked.get("instead") ?? "";
  const [call] = useState(() => uuid());
  const [find, setFind] = useState("");
  const [picked, setPicked] = useState<Where | null>();
  const [fresh, setFresh] = useState(false);
  const [machine, setMachine] = useState({ site: "", name: "", model: "", serial: "", kind: "" });
  const [typed, setWords] = useState<string>();
  const [complaint, setComplaint] = useState("");
  const [also, setAlso] = useState<string[]>([]);
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [plate, setPlate] = useState("");
  const [plain, setPlain] = useState(false);
  const [wrong, setWrong] = useState("");
  const [told, setTold] = useState("");
  const [sending, setSending] = useState(false);
  const [goes, setGoes] = useState<string[]>([]);

  const places = useQuery({
    queryKey: ["places"],
    queryFn: async () => got(await api.GET("/places")),
    retry: false,
  });
  // From a machine's own page, and from a job on the wrong one, until something else is said.
  const at = asked.get("machine");
  const preset = at ? allOf(places.data?.places ?? []).find((m) => m.appliance === at) : undefined;
  const where = picked === undefined ? preset : (picked ?? undefined);
  const wrongJob = useQuery({
    queryKey: ["job", instead],
    queryFn: async () => got(await api.GET("/jobs/{job}", { params: { path: { job: instead } } })),
    enabled: instead !== "",
    retry: false,
  });
  const words = typed ?? wrongJob.data?.job.words ?? "";
  const said = {
    appliance: where?.appliance,
    model: fresh ? machine.model : undefined,
    kind: machine.kind || undefined,
    plain: plain || undefined,
    words,
    complaint: complaint || undefined,
    answers,
  };
  const settled = useSettled(said);
  const known = Boolean(where) || (fresh && Boolean(machine.model.trim() || machine.kind));
  const of = (c: typeof said) => JSON.stringify([c.appliance, c.model, c.kind, c.plain]);
  const heard = useQuery({
    queryKey: ["call", of(settled), settled],
    queryFn: async () => got(await api.POST("/calls/heard", { body: settled })),
    enabled: known || settled.words.trim() !== "",
    // What was heard of another machine is never shown for this one.
    placeholderData: (before, asked) => (asked?.queryKey[1] === of(settled) ? before : undefined),
    retry: false,
  });
  const current = JSON.stringify(settled) === JSON.stringify(said) && !heard.isPlaceholderData;
  const heardNow = known && of(settled) === of(said) ? heard.data : undefined;
  const emergency = heard.data?.emergency ?? undefined;

  const open = [
    ...(where || (fresh && machine.site && machine.name.trim()) ? [] : ["where the machine stands"]),
    ...(heardNow?.map ? [] : ["what machine it is"]),
    ...(words.trim() || heardNow?.complaint ? [] : ["what is wrong, in their words"]),
    ...(emergency && told !== emergency.kind ? ["that the caller was told"] : []),
  ];
  const waits = known && !current && !heard.isError;
  const make = async () => {
    if (sending || waits || open.length > 0 || !heardNow) return;
    setSending(true);
    setWrong("");
    try {
      const { job } = got(
        await api.POST("/calls", {
          body: {
            call,
            site: where?.site ?? machine.site,
            appliance: where?.appliance,
            name: fresh ? machine.name : undefined,
            model: fresh ? machine.model : undefined,
            serial: fresh ? machine.serial : undefined,
            map: heardNow.map,
            complaint: heardNow.complaint,
            also: also.filter(
              (id) => id !== heardNow.complaint && heardNow.complaints.some((c) => c.id === id),
            ),
            words,
            answers,
            told: emergency ? told : undefined,
            uncovered: heardNow.nearest || plain || undefined,
            plate: plate || undefined,
            instead: instead || undefined,
            goes: goes.length > 0 ? goes : undefined,
          },
        }),
      );
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      void go(`/jobs/${job}`);
    } catch (err) {
      setWrong(wentWrong(err));
      setSending(false);
    }
  };

  const found = meant(places.data?.places ?? [], find);
  const set = (key: keyof typeof machine) => (value: string) => setMachine({ ...machine, [key]: value });
  return (
    <Hall
      title={instead ? `The right machine for the job ${instead}` : "Take a call"}
      note={instead ? "that one is then called off" : "what is wrong, in their words"}
    >
      {places.isError && <Complaint role="alert">{wentWrong(places.error)}</Complaint>}
      <Two>
        <section>
          <h2>Where?</h2>
          {where ? (
            <Beside>
              <b>{where.label}</b>
              <Plain onPress={() => setPicked(null)}>Another</Plain>
            </Beside>
          ) : (
            !fresh && (
              <>
                <Field>
                  Site, machine, model or serial
                  <input
                    value={find}
                    maxLength={80}
                    autoComplete="off"
                    placeholder="canteen dryer"
                    onChange={(e) => setFind(e.target.value)}
                  />
                </Field>
                <Choices>
                  {found.slice(0, few).map((m) => (
                    <Choice key={m.appliance} onPress={() => setPicked(m)}>
                      {m.label}
                    </Choice>
                  ))}
                </Choices>
                {found.length > few && <p>{found.length - few} more: write another word.</p>}
                {find.trim() !== "" && found.length === 0 && places.data && (
                  <p>No machine of ours is called that.</p>
                )}
                <Plain onPress={() => setFresh(true)}>A machine that is new here</Plain>
              </>
            )
          )}
          {fresh && (
            <>
              <p>Its site</p>
              <Beside role="group" aria-label="Its site">
                {places.data?.places.map((p) => (
                  <Choice key={p.id} aria-pressed={machine.site === p.id} onPress={() => set("site")(p.id)}>
                    {p.name}
                  </Choice>
                ))}
              </Beside>
              <Text label="Name on site" value={machine.name} ask="dryer 2" onChange={set("name")} />
              <Text
                label="Model, from the rating plate"
                value={machine.model}
                ask="TV6-230"
                onChange={set("model")}
              />
              <Text label="Serial" value={machine.serial} ask="L-20418" onChange={set("serial")} />
              <p>What kind it is, where the model is not known</p>
              <Beside role="group" aria-label="What kind it is">
                {places.data?.kinds.map((k) => (
                  <Choice
                    key={k}
                    aria-pressed={machine.kind === k}
                    onPress={() => set("kind")(machine.kind === k ? "" : k)}
                  >
                    {k}
                  </Choice>
                ))}
              </Beside>
              <Plain onPress={() => setFresh(false)}>Existing machine</Plain>
            </>
          )}
          <Field>
            A photo of the rating plate
            <input
              type="file"
              accept="image/*"
              onChange={(e) => {
                const file = e.target.files?.[0];
                setPlate("");
                setWrong("");
                if (file) keepPhoto(file).then(setPlate, (err: unknown) => setWrong(wentWrong(err)));
              }}
            />
          </Field>
          {plate && <Plate src={`/api/photos/${plate}`} alt="The rating plate" />}
          <h2>What is wrong?</h2>
          <Field>
            In the customer’s own words
            <textarea
              rows={3}
              value={words}
              maxLength={2000}
              onChange={(e) => {
                setWords(e.target.value);
                setComplaint("");
              }}
            />
          </Field>
          {wrong && <Complaint role="alert">{wrong}</Complaint>}
          <Strong isDisabled={open.length > 0 || sending || waits} onPress={() => void make()}>
            {sending
              ? "Keeping it …"
              : open.length > 0
                ? `Still open: ${open.join(", ")}`
                : waits
                  ? "Looking at what it means …"
                  : emergency
                    ? "Make the job, out of use"
                    : "Make the job"}
          </Strong>
        </section>
        <section aria-label="What it means" aria-live="polite">
          {heard.isError && <Complaint role="alert">{wentWrong(heard.error)}</Complaint>}
          {emergency && (
            <Danger role="alert">
              <h2>{emergency.name}</h2>
              <p>Tell them now:</p>
              <ol>
                {emergency.say.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ol>
              <Choice
                aria-pressed={told === emergency.kind}
                onPress={() => setTold(told === emergency.kind ? "" : emergency.kind)}
              >
                {told === emergency.kind ? "✓ They were told" : "I have told them this"}
              </Choice>
              <p>It becomes an urgent visit to make safe. The machine is out of use until then.</p>
            </Danger>
          )}
          {!known && <p>Say where the machine stands, and what is meant stands here.</p>}
          {heardNow && (
            <Heard
              heard={heardNow}
              answers={answers}
              onAnswer={(id, value) => setAnswers({ ...answers, [id]: value })}
              onChoose={setComplaint}
              also={also}
              onAlso={setAlso}
            />
          )}
          {heardNow && !heardNow.map && !fresh && (
            <Choices role="group" aria-label="What kind of machine?">
              {(places.data?.kinds ?? []).map((k) => (
                <Choice
                  key={k}
                  aria-pressed={machine.kind === k}
                  onPress={() => setMachine({ ...machine, kind: k })}
                >
                  {k}
                </Choice>
              ))}
            </Choices>
          )}
          {heardNow?.plain && !plain && (
            <Plain onPress={() => setPlain(true)}>Work without a map, with steps of your own</Plain>
          )}
          {plain && <Plain onPress={() => setPlain(false)}>Use the nearest map after all</Plain>}
          {heardNow && (
            <>
              <h2>Who goes?</h2>
              <Beside role="group" aria-label="Who goes?">
                {(places.data?.goers ?? []).map((p) => (
                  <Choice
                    key={p.id}
                    aria-pressed={goes.includes(p.id)}
                    onPress={() =>
                      setGoes(goes.includes(p.id) ? goes.filter((id) => id !== p.id) : [...goes, p.id])
                    }
                  >
                    {goes.includes(p.id) ? "✓ " : ""}
                    {p.name}
                    {p.tickets.length > 0 && <small>{ticketWords(p.tickets)}</small>}
                  </Choice>
                ))}
              </Beside>
            </>
          )}
        </section>
      </Two>
    </Hall>
  );
}

interface TextProps {
  label: string;
  value: string;
  ask: string;
  onChange: (value: string) => void;
}

const Text = ({ label, value, ask, onChange }: TextProps) => (
  <Field>
    {label}
    <input
      value={value}
      maxLength={80}
      autoComplete="off"
      placeholder={ask}
      onChange={(e) => onChange(e.target.value)}
    />
  </Field>
);

interface HeardProps {
  heard: CallHeard;
  answers: Record<string, string>;
  onAnswer: (id: string, value: string) => void;
  onChoose: (complaint: string) => void;
  also: string[];
  onAlso: (complaints: string[]) => void;
}

/** What the core made of it: the map, the complaint, what matters, and what was before. */
function Heard({ heard, answers, onAnswer, onChoose, also, onAlso }: HeardProps) {
  const [all, setAll] = useState(false);
  const good = heard.complaints.filter((c) => c.good || c.id === heard.complaint);
  const shown = all || good.length === 0 ? heard.complaints : good.slice(0, 4);
  const asked = heard.asks.map((a) => a.id);
  return (
    <>
      {heard.map ? (
        <>
          <h2>{heard.machine}</h2>
          {heard.nearest ? <Complaint role="note">{heard.how}</Complaint> : <p>The map {heard.how}.</p>}
        </>
      ) : (
        <Complaint role="note">{heard.how}</Complaint>
      )}
      {heard.map && (
        <>
          <h2>It means</h2>
          {heard.unknown && (
            <p>
              None of this machine’s complaints. Choose one, or leave it: the job keeps the customer’s own
              words.
            </p>
          )}
          <Choices role="group" aria-label="The complaint">
            {shown.map((c) => (
              <WithAlso key={c.id}>
                <Choice aria-pressed={c.id === heard.complaint} onPress={() => onChoose(c.id)}>
                  {c.name}
                  {c.by.length > 0 && <small>said: {c.by.join(", ")}</small>}
                </Choice>
                {c.id !== heard.complaint && heard.complaint !== "" && (
                  <Choice
                    aria-label={`Also: ${c.name}`}
                    aria-pressed={also.includes(c.id)}
                    onPress={() =>
                      onAlso(also.includes(c.id) ? also.filter((id) => id !== c.id) : [...also, c.id])
                    }
                  >
                    {also.includes(c.id) ? "✓ Also" : "Also"}
                  </Choice>
                )}
              </WithAlso>
            ))}
          </Choices>
          {shown.length < heard.complaints.length && (
            <Plain onPress={() => setAll(true)}>Something else</Plain>
          )}
        </>
      )}
      {(heard.asks.length > 0 || Object.keys(answers).length > 0) && <h2>Ask them</h2>}
      {heard.asks.map((a) => (
        <div key={a.id} role="group" aria-label={a.ask}>
          <b>{a.ask}</b>
          <p>{a.tell}</p>
          <Beside>
            {a.values.map((v) => (
              <Choice key={v} aria-pressed={answers[a.id] === v} onPress={() => onAnswer(a.id, v)}>
                {v}
                {v === a.usual && <small>the usual</small>}
              </Choice>
            ))}
          </Beside>
        </div>
      ))}
      {Object.entries(answers)
        .filter(([id]) => !asked.includes(id))
        .map(([id, value]) => (
          <p key={id}>
            {id}: <b>{value}</b>
          </p>
        ))}
      {heard.before.length > 0 && (
        <>
          <h2>This machine before</h2>
          <Lines>
            {heard.before.map((b) => (
              <li key={b}>{b}</li>
            ))}
          </Lines>
        </>
      )}
      {heard.like.length > 0 && (
        <>
          <h2>Past causes on this model</h2>
          <Lines>
            {heard.like.map((l) => (
              <li key={l}>{l}</li>
            ))}
          </Lines>
        </>
      )}
    </>
  );
}
