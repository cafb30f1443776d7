import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, got, wentWrong, type MachinePage } from "../api/client";
import { Choice, Strong } from "../parts/Buttons";
import { Text } from "../parts/Fields";
import { Complaint, Dialogue } from "../parts/Sheets";

interface MergingProps {
  m: MachinePage;
  onClose: () => void;
}

/** Doubles: its jobs go over to the other one, and back where that was a mistake. */
export function Merging({ m, onClose }: MergingProps) {
  const go = useNavigate();
  const [find, setFind] = useState("");
  const [into, setInto] = useState<{ id: string; label: string }>();
  const [wrong, setWrong] = useState("");
  const places = useQuery({ queryKey: ["places"], queryFn: async () => got(await api.GET("/places")) });
  const parts = find.toLowerCase().split(/\s+/).filter(Boolean);
  const found = (places.data?.places ?? [])
    .flatMap((p) =>
      p.machines.map((o) => ({ id: o.id, label: `${p.name}, ${o.name} · ${o.model} · ${o.serial}` })),
    )
    .filter((o) => o.id !== m.id && parts.every((part) => o.label.toLowerCase().includes(part)));
  const merge = async () => {
    if (!into) return;
    try {
      const params = { path: { machine: m.id } };
      got(await api.POST("/machines/{machine}/merge", { params, body: { into: into.id } }));
      onClose();
      void go(`/machines/${into.id}`);
    } catch (err) {
      setWrong(wentWrong(err));
    }
  };
  return (
    <Dialogue title={`${m.name} is the same machine as`} open onClose={onClose}>
      <Text label="Site, machine, model or serial" value={find} most={80} onChange={setFind} first />
      {found.slice(0, 6).map((o) => (
        <Choice key={o.id} aria-pressed={into?.id === o.id} onPress={() => setInto(o)}>
          {o.label}
        </Choice>
      ))}
      {wrong && <Complaint role="alert">{wrong}</Complaint>}
      <p>All its jobs go over to that one. It can be taken back there.</p>
      <Strong isDisabled={!into} onPress={() => void merge()}>
        {into ? `Merge it into ${into.label}` : "Choose the other one"}
      </Strong>
    </Dialogue>
  );
}
