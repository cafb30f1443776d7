import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { wentWrong } from "../api/client";
import { keepLists } from "../offline/lists";
import { handIn, send, sendAgain } from "../offline/outbox";
import { sendPhotos } from "../offline/photos";
import { size, useRoom } from "../offline/room";
import { Plain, Strong } from "../parts/Buttons";
import { Beside } from "../parts/Form";
import { Hall } from "../parts/Hall";
import { Group, Line, Warn } from "../parts/Rows";
import { Notice } from "../parts/Sheets";
import { clock } from "../parts/text";
import { useSession } from "../signin/session";
import { keptHere } from "./kept";

const some = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** What lies on this device: what waits to be sent, what can be worked without signal, and how old it is. */
export function DevicePage() {
  const { me } = useSession();
  const room = useRoom();
  // Not at each change: while much is sent there are many.
  const { data: kept, refetch } = useQuery({
    queryKey: ["kept", me.id],
    queryFn: () => keptHere(me.id),
    networkMode: "always",
    refetchInterval: 2_000,
    staleTime: 0,
  });
  const [sending, setSending] = useState(false);
  const [said, setSaid] = useState("");
  const hand = () =>
    handIn(me.id).then(
      (n) =>
        setSaid(
          n > 0 ? `${some(n, "record")} handed in.` : "None: their accounts are open. They sign in here.",
        ),
      (err: unknown) => setSaid(wentWrong(err)),
    );
  const sendNow = async () => {
    setSending(true);
    await send(me.id).catch(() => undefined); // what it is stays beside each job
    await sendPhotos().catch(() => undefined);
    await keepLists().catch(() => undefined);
    await refetch();
    setSending(false);
  };
  const jobs = [...(kept?.jobs ?? [])].sort((a, b) => (b.heard ?? "").localeCompare(a.heard ?? ""));
  const nothing = kept && kept.waiting.length === 0 && kept.photos === 0;
  return (
    <Hall title="This device" note="what waits, and what can be worked without signal">
      <section aria-label="To be sent">
        <Group>To be sent</Group>
        {nothing && <p>All sent. Nothing waits.</p>}
        {kept?.waiting.map((w) => (
          <Line key={w.job}>
            <div>
              <h2>{w.title}</h2>
              <p>{w.records > 0 ? `${some(w.records, "record waits", "records wait")}` : ""}</p>
              {[...new Set(w.problems)].map((p) => (
                <Warn key={p}>Not taken by the server: {p}</Warn>
              ))}
            </div>
            {w.problems.length > 0 && (
              <Plain onPress={() => void sendAgain(w.job, me.id).then(sendNow)}>Send once more</Plain>
            )}
            <Link to={`/jobs/${w.job}`}>Open</Link>
          </Line>
        ))}
        {kept && kept.photos > 0 && <p>{some(kept.photos, "photo waits", "photos wait")}.</p>}
        {kept && kept.ofOthers > 0 && (
          <p>
            {some(kept.ofOthers, "record")} of others on this device: sent when they sign in here again.
            {me.role === "supervisor" && " Of who no longer can, you hand them in, with their name on them."}
          </p>
        )}
        {said && <Notice role="status">{said}</Notice>}
        <Beside>
          <Strong isDisabled={sending} onPress={() => void sendNow()}>
            {sending ? "Sending …" : "Send now"}
          </Strong>
          {me.role === "supervisor" && kept && kept.ofOthers > 0 && (
            <Plain onPress={() => void hand()}>Hand in what others left</Plain>
          )}
        </Beside>
      </section>
      <section aria-label="Without signal">
        <Group>
          Can be worked without signal <span>{some(jobs.length, "job")}</span>
        </Group>
        {jobs.map((j) => (
          <Line key={j.job} $quiet>
            <div>
              <h3>{j.title}</h3>
              <p>{j.heard ? `as it stood ${clock(j.heard)}` : "begun on this device"}</p>
            </div>
            <Link to={`/jobs/${j.job}`}>Open</Link>
          </Line>
        ))}
        <p>
          {kept?.lists
            ? `Calls can be taken: sites, people and ${some(kept.maps, "map")}, as they stood ${clock(kept.lists)}.`
            : "Calls cannot be taken without signal yet: sites and maps come with the next signal."}
        </p>
      </section>
      <section aria-label="Room">
        <Group>Room</Group>
        <p>
          {room?.used !== undefined && room.all !== undefined
            ? `${size(room.used)} used of ${size(room.all)}; ${some(kept?.allPhotos ?? 0, "photo")} among it.`
            : "This browser does not say how much room there is."}
        </p>
        <p>
          {room?.promised
            ? "The browser keeps it until somebody clears it."
            : "The browser may clear it when the device is full. Add the program to the home screen, and it asks again."}
        </p>
        <p>
          Jobs that are over leave this device two weeks after they were last open here, once all is sent.
        </p>
      </section>
    </Hall>
  );
}
