import { useState } from "react";
import { api, got, type MapName, type Place, type PlaceMachine } from "../api/client";
import { OneOf, Text } from "../parts/Fields";
import { OneFrom } from "../parts/OneFrom";
import { Form, Pair } from "../parts/Form";
import { Dialogue } from "../parts/Sheets";

interface SiteFormProps {
  of?: Place;
  onClose: () => void;
}

/** A new site, or what is known of one. */
export function SiteForm({ of, onClose }: SiteFormProps) {
  const [site, setSite] = useState({
    name: of?.name ?? "",
    address: of?.address ?? "",
    island: of?.island ?? "",
    ferry: of?.ferry ?? "",
    contact: of?.contact ?? "",
    phone: of?.phone ?? "",
    access: of?.access ?? "",
  });
  const set = (key: keyof typeof site) => (value: string) => setSite({ ...site, [key]: value });
  const keep = async () => {
    const body = { ...site, id: of?.id ?? "" };
    if (of) {
      const params = { path: { site: of.id } };
      got(await api.PUT("/sites/{site}", { params, body: { ...body, version: of.version } }));
    } else {
      got(await api.POST("/sites", { body }));
    }
    onClose();
  };
  return (
    <Dialogue title={of ? `Change ${of.name}` : "Add a site"} open onClose={onClose}>
      <Form keep={keep} label={of ? "Save the changes" : "Add the site"}>
        <Text label="Name" value={site.name} onChange={set("name")} first />
        <Text label="Address" value={site.address} onChange={set("address")} lines={3} most={1000} />
        <Pair>
          <Text label="Island or town" value={site.island} onChange={set("island")} />
          <Text label="Boat or round" value={site.ferry} onChange={set("ferry")} />
        </Pair>
        <Pair>
          <Text label="Contact" value={site.contact} onChange={set("contact")} />
          <Text label="Telephone" type="tel" value={site.phone} onChange={set("phone")} />
        </Pair>
        <Text label="How to get in" value={site.access} onChange={set("access")} lines={3} most={1000} />
      </Form>
    </Dialogue>
  );
}

/** What is known, with one more answer, or without it where it was taken back. */
const answered = (known: Record<string, string>, id: string, value: string) =>
  Object.fromEntries(Object.entries({ ...known, [id]: value }).filter(([, v]) => v !== ""));

interface MachineFormProps {
  of?: PlaceMachine;
  site: string;
  places: { id: string; name: string }[];
  maps: MapName[];
  options: { id: string; ask: string; values: string[] }[];
  onClose: () => void;
}

/** A new machine at a site, or what is known of one. */
export function MachineForm({ of, site, places, maps, options, onClose }: MachineFormProps) {
  const [machine, setMachine] = useState({
    site: of?.site ?? site,
    name: of?.name ?? "",
    model: of?.model ?? "",
    serial: of?.serial ?? "",
    map: of?.map ?? "",
    stands: of?.stands ?? "",
  });
  const [known, setKnown] = useState<Record<string, string>>(of?.options ?? {});
  const set = (key: keyof typeof machine) => (value: string) => setMachine({ ...machine, [key]: value });
  const keep = async () => {
    const body = { ...machine, id: of?.id ?? "", options: known };
    if (of) {
      const params = { path: { machine: of.id } };
      got(await api.PUT("/machines/{machine}", { params, body: { ...body, version: of.version } }));
    } else {
      got(await api.POST("/machines", { body }));
    }
    onClose();
  };
  return (
    <Dialogue title={of ? `Change ${of.name}` : "Add a machine"} open onClose={onClose}>
      <Form keep={keep} label={of ? "Save the changes" : "Add the machine"}>
        <OneFrom label="Site" of={places} value={machine.site} onChange={set("site")} />
        <Text label="What it is called there" value={machine.name} onChange={set("name")} most={80} first />
        <Pair>
          <Text label="Model" value={machine.model} onChange={set("model")} most={80} />
          <Text label="Serial" value={machine.serial} onChange={set("serial")} most={80} />
        </Pair>
        <Text label="Where it stands" value={machine.stands} onChange={set("stands")} />
        <OneFrom
          label="Map"
          of={maps.map((m) => ({ id: m.id, name: m.title }))}
          value={machine.map}
          onChange={set("map")}
          none="the one that covers the model"
          optional
        />
        {options.map((o) => (
          <div key={o.id}>
            <p aria-hidden="true">{o.ask}</p>
            <OneOf
              label={o.ask}
              values={o.values}
              value={known[o.id] ?? ""}
              onChange={(v) => setKnown(answered(known, o.id, v))}
              optional
            />
          </div>
        ))}
      </Form>
    </Dialogue>
  );
}
