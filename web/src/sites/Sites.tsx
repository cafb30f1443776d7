import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { wentWrong, type Place } from "../api/client";
import { placesNow } from "../offline/placesNow";
import { Plain, Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Beside } from "../parts/Form";
import { Hall } from "../parts/Hall";
import { Group, Row } from "../parts/Rows";
import { Complaint, Notice } from "../parts/Sheets";
import { clock } from "../parts/text";
import { useSession } from "../signin/session";
import { MachineForm, SiteForm } from "./forms";

const Machines = styled.ul`
  flex: 1 1 100%;
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  a {
    display: grid;
    align-content: center;
    min-height: 3.5rem;
    padding: 0.375rem 1rem;
    border: 0.125rem solid ${(p) => p.theme.ink};
    background: ${(p) => p.theme.paper};
    text-decoration: none;
    font-weight: 600;
    line-height: 1.2;
  }
  small {
    font-size: ${(p) => p.theme.small};
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
  }
`;

/** As many sites as are shown at once; a word finds the others. */
const most = 60;

/** The sites that a few letters mean, by what is known of them and of their machines. */
function meant(places: Place[], text: string): Place[] {
  const parts = text.toLowerCase().split(/\s+/).filter(Boolean);
  return places.filter((p) => {
    const of = p.machines.map((m) => `${m.name} ${m.model} ${m.serial} ${m.stands}`).join(" ");
    const all = `${p.name} ${p.island} ${p.address} ${p.contact} ${p.phone} ${of}`.toLowerCase();
    return parts.every((part) => all.includes(part));
  });
}

/** Where the company looks after machines: how to get there and in, and each machine's own page. */
export function Sites() {
  const queries = useQueryClient();
  const { me } = useSession();
  const [find, setFind] = useState("");
  const [site, setSite] = useState<Place | "new">();
  const [at, setAt] = useState<string>();
  const places = useQuery({
    queryKey: ["places"],
    queryFn: placesNow,
    networkMode: "always",
    retry: false,
  });
  const may = me.role === "supervisor";
  const all = places.data?.places ?? [];
  const found = meant(all, find);
  const islands = [...new Set(found.slice(0, most).map((p) => p.island))];
  const close = () => {
    setSite(undefined);
    setAt(undefined);
    void queries.invalidateQueries({ queryKey: ["places"] });
  };
  const machines = all.reduce((n, p) => n + p.machines.length, 0);
  return (
    <Hall title="Sites" note={places.data && `${all.length} sites, ${machines} machines`}>
      {places.data?.kept && (
        <Notice role="status">No signal. This is how they stood {clock(places.data.kept)}.</Notice>
      )}
      {places.isError && <Complaint role="alert">{wentWrong(places.error)}</Complaint>}
      <Text label="Find: name, island, contact, model or serial" value={find} most={80} onChange={setFind} />
      {may && (
        <Beside>
          <Strong onPress={() => setSite("new")}>Add a site</Strong>
        </Beside>
      )}
      {places.data && all.length === 0 && (
        <p>
          No sites yet. {may ? "Add one, or take a file of them under Company." : "A supervisor adds them."}
        </p>
      )}
      {find.trim() !== "" && found.length === 0 && all.length > 0 && <p>No site of ours is called that.</p>}
      {islands.map((island) => (
        <section key={island} aria-label={island || "Elsewhere"}>
          <Group>{island || "Elsewhere"}</Group>
          {found
            .slice(0, most)
            .filter((p) => p.island === island)
            .map((p) => (
              <Row key={p.id}>
                <div>
                  <h3>
                    <bdi>{p.name}</bdi>
                  </h3>
                  <p>{[p.address.replaceAll("\n", ", "), p.ferry].filter(Boolean).join(" · ")}</p>
                  <p>
                    {p.contact} {p.phone && <a href={`tel:${p.phone.replace(/[^+0-9]/g, "")}`}>{p.phone}</a>}
                  </p>
                  {p.access && <p>Getting in: {p.access}</p>}
                </div>
                {may && (
                  <>
                    <Plain onPress={() => setSite(p)} aria-label={`Change ${p.name}`}>
                      Change
                    </Plain>
                    <Plain onPress={() => setAt(p.id)} aria-label={`Add a machine at ${p.name}`}>
                      Add a machine
                    </Plain>
                  </>
                )}
                {p.machines.length > 0 && (
                  <Machines>
                    {p.machines.map((m) => (
                      <li key={m.id}>
                        <Link to={`/machines/${m.id}`}>
                          <bdi>{m.name}</bdi>
                          <small>{[m.model, m.stands].filter(Boolean).join(" · ")}</small>
                        </Link>
                      </li>
                    ))}
                  </Machines>
                )}
              </Row>
            ))}
        </section>
      ))}
      {found.length > most && <p>{found.length - most} more: write another word.</p>}
      {site && <SiteForm of={site === "new" ? undefined : site} onClose={close} />}
      {at && (
        <MachineForm site={at} places={all} maps={places.data?.maps ?? []} options={[]} onClose={close} />
      )}
    </Hall>
  );
}
