import { useLiveQuery } from "dexie-react-hooks";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { nowAndThen, onSignal, send, waitingFor, type Signal } from "../offline/outbox";
import { sendPhotos } from "../offline/photos";
import { beginNewVersion, useNewVersion } from "../offline/pages";
import { roomWarning, useRoom } from "../offline/room";
import { useSession } from "../signin/session";
import { Plain } from "./Buttons";
import { Complaint, Notice } from "./Sheets";

const Where = styled(Link)`
  display: flex;
  align-items: center;
  min-height: ${(p) => p.theme.touchSmall};
  margin-top: auto;
  color: ${(p) => p.theme.ink};
  font-size: ${(p) => p.theme.glance};
  white-space: nowrap;
`;

/** How the sending goes, on every page outside a job: it leads to what is kept here. */
export function Sending() {
  const { me } = useSession();
  const waiting = useLiveQuery(() => waitingFor(me.id).catch(() => 0), [me.id], 0);
  const [signal, setSignal] = useState<Signal>("sent");
  useEffect(() => onSignal(setSignal), []);
  // What waits is sent from here, too, not only while a job is open.
  useEffect(() => {
    const sync = () =>
      void send(me.id)
        .then(sendPhotos)
        .catch(() => undefined); // later
    sync();
    return nowAndThen(sync);
  }, [me.id]);
  const waits = waiting > 0 ? `${waiting} to send` : "all sent";
  return <Where to="/device">{signal === "offline" ? `no signal, ${waits}` : waits}</Where>;
}

/** What must be known of this device before work goes on: its room, and a new version. */
export function Notices() {
  const warning = roomWarning(useRoom());
  const fresh = useNewVersion();
  const [others, setOthers] = useState(false);
  return (
    <>
      {warning && <Complaint role="alert">{warning}</Complaint>}
      {fresh && (
        <Notice role="status">
          {others ? "Close the other tabs of this program first. " : "A new version is ready. "}
          <Plain onPress={() => void beginNewVersion().then((began) => setOthers(!began))}>Begin it</Plain>
        </Notice>
      )}
    </>
  );
}
