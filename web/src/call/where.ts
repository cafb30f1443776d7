import type { Place } from "../api/client";

/** A machine that the company looks after, with the site that it stands at. */
export interface Where {
  site: string;
  appliance: string;
  label: string;
}

export const allOf = (places: Place[]) =>
  places.flatMap((p) =>
    p.machines.map((m) => ({
      site: p.id,
      appliance: m.id,
      label: `${p.name}, ${m.name} · ${m.model} · ${m.serial}`,
      all: `${p.name} ${p.island} ${m.name} ${m.model} ${m.serial}`.toLowerCase(),
    })),
  );

/** The machines that a few letters mean: any of site, island, name, model and serial. */
export function meant(places: Place[], text: string): Where[] {
  const parts = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (parts.length === 0) return [];
  return allOf(places).filter((m) => parts.every((part) => m.all.includes(part)));
}
