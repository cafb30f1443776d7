import { useState } from "react";
import { api, got, type MapName, type Place, type PlaceMachine } from "../api/client";
import { Choice, Plain } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Beside, Form, Pair } from "../parts/Form";
import { Dialogue, Field, Select } from "../parts/Sheets";

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
        <Field>
          Site
          <Select value={machine.site} onChange={(e) => set("site")(e.target.value)}>
            {places.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Select>
        </Field>
        <Text label="What it is called there" value={machine.name} onChange={set("name")} most={80} first />
        <Pair>
          <Text label="Model" value={machine.model} onChange={set("model")} most={80} />
          <Text label="Serial" value={machine.serial} onChange={set("serial")} most={80} />
        </Pair>
        <Text label="Where it stands" value={machine.stands} onChange={set("stands")} />
        <Field>
          Map
          <Select value={machine.map} onChange={(e) => set("map")(e.target.value)}>
            <option value="">the one that covers the model</option>
            {maps.map((m) => (
              <option key={m.id} value={m.id}>
                {m.title}
              </option>
            ))}
          </Select>
        </Field>
        {options.map((o) => (
          <div key={o.id} role="group" aria-label={o.ask}>
            <p>{o.ask}</p>
            <Beside>
              {o.values.map((v) => (
                <Choice
                  key={v}
                  aria-pressed={known[o.id] === v}
                  onPress={() => setKnown({ ...known, [o.id]: v })}
                >
                  {v}
                </Choice>
              ))}
              {known[o.id] !== undefined && (
                <Plain
                  onPress={() =>
                    setKnown(Object.fromEntries(Object.entries(known).filter(([id]) => id !== o.id)))
                  }
                >
                  Not known
                </Plain>
              )}
            </Beside>
          </div>
        ))}
      </Form>
    </Dialogue>
  );
}
