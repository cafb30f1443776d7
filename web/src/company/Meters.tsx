import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got, wentWrong, type Gauge } from "../api/client";
import { Plain, Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Beside, Form, Pair } from "../parts/Form";
import { Hall } from "../parts/Hall";
import { Row, Warn } from "../parts/Rows";
import { Complaint, Dialogue } from "../parts/Sheets";
import { useSession } from "../signin/session";

const asked = ["voltage", "resistance", "current", "temperature", "capacitance", "pressure"];

/** The company's meters: what stands on them, how true they are, and until when that is good. */
export function Meters() {
  const queries = useQueryClient();
  const { me } = useSession();
  const [which, setWhich] = useState<Gauge | "new">();
  const meters = useQuery({
    queryKey: ["meters"],
    queryFn: async () => got(await api.GET("/meters")),
    retry: false,
  });
  const may = me.role === "supervisor";
  const all = meters.data?.meters ?? [];
  const overdue = all.filter((m) => m.overdue).length;
  const note = `${all.length} ${all.length === 1 ? "meter" : "meters"}${overdue > 0 ? `, ${overdue} overdue` : ""}`;
  const close = () => {
    setWhich(undefined);
    void queries.invalidateQueries({ queryKey: ["meters"] });
  };
  return (
    <Hall title="Meters" note={meters.data && note}>
      {meters.isError && <Complaint role="alert">{wentWrong(meters.error)}</Complaint>}
      {may && (
        <Beside>
          <Strong onPress={() => setWhich("new")}>Add a meter</Strong>
        </Beside>
      )}
      {meters.data && all.length === 0 && <p>No meters yet. Their numbers stand beside every reading.</p>}
      {all.map((m) => (
        <Row key={m.id}>
          <div>
            <h2>
              <bdi>{m.name}</bdi>
            </h2>
            <p>
              {[
                `number ${m.id}`,
                m.category,
                ...Object.entries(m.accuracy).map(([q, a]) => `${q} ${a}`),
                m.calibrated && `calibrated ${m.calibrated}`,
                m.due && !m.overdue && `good until ${m.due}`,
              ]
                .filter(Boolean)
                .join(" · ")}
            </p>
            {m.overdue && <Warn>Its calibration ended on {m.due}. Its readings say so.</Warn>}
          </div>
          {may && (
            <Plain onPress={() => setWhich(m)} aria-label={`Change ${m.name}`}>
              Change
            </Plain>
          )}
        </Row>
      ))}
      {which && <MeterForm of={which === "new" ? undefined : which} onClose={close} />}
    </Hall>
  );
}

function MeterForm({ of, onClose }: { of?: Gauge; onClose: () => void }) {
  const [meter, setMeter] = useState({
    id: of?.id ?? "",
    name: of?.name ?? "",
    category: of?.category ?? "",
    calibrated: of?.calibrated ?? "",
    due: of?.due ?? "",
  });
  const [accuracy, setAccuracy] = useState<Record<string, string>>(of?.accuracy ?? {});
  const set = (key: keyof typeof meter) => (value: string) => setMeter({ ...meter, [key]: value });
  const keep = async () => {
    const said = Object.fromEntries(Object.entries(accuracy).filter(([, text]) => text.trim() !== ""));
    const body = { ...meter, accuracy: said, version: of?.version ?? 0 };
    got(await api.PUT("/meters/{meter}", { params: { path: { meter: meter.id } }, body }));
    onClose();
  };
  return (
    <Dialogue title={of ? `Change ${of.name}` : "Add a meter"} open onClose={onClose}>
      <Form keep={keep} label={of ? "Save the changes" : "Add the meter"}>
        {!of && (
          <Text
            label="Number"
            note="as it is written on the meter: small letters, digits, dashes"
            value={meter.id}
            most={80}
            onChange={set("id")}
            first
          />
        )}
        <Text label="Name" value={meter.name} onChange={set("name")} />
        <Text
          label="Category"
          value={meter.category}
          most={80}
          onChange={set("category")}
          note="such as CAT III 600 V"
        />
        <Pair>
          <Text label="Calibrated on" type="date" value={meter.calibrated} onChange={set("calibrated")} />
          <Text label="Good until" type="date" value={meter.due} onChange={set("due")} />
        </Pair>
        <p>Accuracy, as its maker prints it, such as 0.9%+3@0.1ohm</p>
        <Pair>
          {asked.map((q) => (
            <Text
              key={q}
              label={q}
              value={accuracy[q] ?? ""}
              most={40}
              onChange={(text) => setAccuracy({ ...accuracy, [q]: text })}
            />
          ))}
        </Pair>
      </Form>
    </Dialogue>
  );
}
