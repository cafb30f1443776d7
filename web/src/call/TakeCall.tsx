import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { FileTrigger } from "react-aria-components";
import { useNavigate, useSearchParams } from "react-router";
import { v7 as uuid } from "uuid";
import { api, got, wentWrong, type Call } from "../api/client";
import { OneOf, Text } from "../parts/Fields";
import { Plain, Strong } from "../parts/Buttons";
import { Hall } from "../parts/Hall";
import { Complaint, Notice } from "../parts/Sheets";
import { clock } from "../parts/text";
import { takePhoto } from "../offline/photos";
import { useSession } from "../signin/session";
import { placesNow } from "../offline/placesNow";
import { hearNow, takeNow } from "./ask";
import { Two } from "./look";
import { PlatePhoto } from "./PlatePhoto";
import { Emergency, WhatItMeans } from "./WhatItMeans";
import { allOf, type Where } from "./where";
import { useSettled } from "./useSettled";
import { WhereItStands } from "./WhereItStands";
import { WhoGoes } from "./WhoGoes";

/** A customer on the telephone: where, what, in their words; what it means; what to ask before anybody sets out. */
export function TakeCall() {
  const go = useNavigate();
  const { me } = useSession();
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
    queryFn: placesNow,
    networkMode: "always",
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
    queryFn: () => hearNow(settled),
    networkMode: "always",
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
    const body: Call = {
      call,
      site: where?.site ?? machine.site,
      appliance: where?.appliance,
      name: fresh ? machine.name : undefined,
      model: fresh ? machine.model : undefined,
      serial: fresh ? machine.serial : undefined,
      map: heardNow.map,
      complaint: heardNow.complaint,
      also: also.filter((id) => id !== heardNow.complaint && heardNow.complaints.some((c) => c.id === id)),
      words,
      answers,
      told: emergency ? told : undefined,
      uncovered: heardNow.nearest || plain || undefined,
      plate: plate || undefined,
      instead: instead || undefined,
      goes: goes.length > 0 ? goes : undefined,
    };
    try {
      const job = await takeNow(body, heardNow, me.id);
      await queries.invalidateQueries({ queryKey: ["jobs"] });
      void go(`/jobs/${job}`);
    } catch (err) {
      setWrong(wentWrong(err));
      setSending(false);
    }
  };

  return (
    <Hall
      title={instead ? `The right machine for the job ${instead}` : "Take a call"}
      note={instead ? "that one is then called off" : "what is wrong, in their words"}
    >
      {places.isError && <Complaint role="alert">{wentWrong(places.error)}</Complaint>}
      {places.data?.kept && (
        <Notice role="status">
          No signal. Sites and machines are as they stood {clock(places.data.kept)}; what was done before is
          not known here. The job can be made and worked, and is sent later.
        </Notice>
      )}
      <Two>
        <section>
          <h2>Where?</h2>
          <WhereItStands
            places={places.data?.places}
            kinds={places.data?.kinds ?? []}
            where={where}
            onWhere={setPicked}
            find={find}
            onFind={setFind}
            fresh={fresh}
            onFresh={setFresh}
            machine={machine}
            onMachine={setMachine}
          />
          <FileTrigger
            acceptedFileTypes={["image/*"]}
            onSelect={(files) => {
              const file = files?.[0];
              setPlate("");
              setWrong("");
              if (file) takePhoto(file).then(setPlate, (err: unknown) => setWrong(wentWrong(err)));
            }}
          >
            <Plain>A photo of the rating plate</Plain>
          </FileTrigger>
          {plate && <PlatePhoto sha256={plate} />}
          <h2>What is wrong?</h2>
          <Text
            label="In the customer’s own words"
            lines={3}
            value={words}
            most={2000}
            onChange={(text) => {
              setWords(text);
              setComplaint("");
            }}
          />
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
            <Emergency
              emergency={emergency}
              told={told === emergency.kind}
              onTold={(is) => setTold(is ? emergency.kind : "")}
            />
          )}
          {!known && <p>Say where the machine stands, and what is meant stands here.</p>}
          {heardNow && (
            <WhatItMeans
              heard={heardNow}
              answers={answers}
              onAnswer={(id, value) => setAnswers({ ...answers, [id]: value })}
              onChoose={setComplaint}
              also={also}
              onAlso={setAlso}
            />
          )}
          {heardNow && !heardNow.map && !fresh && (
            <OneOf
              label="What kind of machine?"
              values={places.data?.kinds ?? []}
              value={machine.kind}
              onChange={(kind) => setMachine({ ...machine, kind })}
            />
          )}
          {heardNow?.plain && !plain && (
            <Plain onPress={() => setPlain(true)}>Work without a map, with steps of your own</Plain>
          )}
          {plain && <Plain onPress={() => setPlain(false)}>Use the nearest map after all</Plain>}
          {heardNow && <WhoGoes goers={places.data?.goers ?? []} goes={goes} onGoes={setGoes} />}
        </section>
      </Two>
    </Hall>
  );
}
