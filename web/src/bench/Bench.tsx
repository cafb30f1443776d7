import styled from "styled-components";
import { useState } from "react";
import { useNavigate } from "react-router";
import type { View } from "../api/client";
import { Plain } from "../parts/Buttons";
import { HoldSwitches } from "../parts/Hold";
import { TorchSwitch } from "../parts/Lit";
import { AddGoal } from "./AddGoal";
import { AtTheKnee } from "./AtTheKnee";
import { moreBelow } from "../parts/scroll";

const Column = styled.aside`
  padding: 0.5rem 1rem 0.75rem;
  border-left: 0.125rem solid ${(p) => p.theme.ink};
  overflow-y: auto;
  ${moreBelow("well")}
  display: grid;
  align-content: start;
  gap: 0.3125rem;
  h2 {
    margin-top: 0.25rem;
    font-size: ${(p) => p.theme.glance};
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const Trays = styled.ul`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 0.5rem;
`;

const Tray = styled.li<{ $lit: boolean }>`
  padding: 0.375rem 0.5rem 0.5rem;
  background: ${(p) => (p.$lit ? p.theme.lit : p.theme.sheet)};
  border: ${(p) => (p.$lit ? `0.1875rem solid ${p.theme.ink}` : `0.0625rem solid ${p.theme.ruleStrong}`)};
  font-size: ${(p) => p.theme.small};
  line-height: 1.2;
  div {
    display: flex;
    justify-content: space-between;
    font-size: 1.375rem;
    font-weight: 700;
  }
  output {
    font-family: ${(p) => p.theme.mono};
  }
`;

const List = styled.ul`
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  li {
    display: flex;
    justify-content: space-between;
    align-items: baseline;
    gap: 0.75rem;
    padding: 0.25rem 0.75rem;
    min-height: 1.8125rem;
    font-size: ${(p) => p.theme.glance};
    line-height: 1.25;
  }
  li + li {
    border-top: 0.0625rem solid ${(p) => p.theme.rule};
  }
  span:last-child {
    text-align: right;
    color: ${(p) => p.theme.inkQuiet};
    font-size: ${(p) => p.theme.small};
  }
`;

const Ways = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0.5rem;
  margin-top: 0.5rem;
  > button {
    padding: 0.375rem 0.625rem;
    font-size: ${(p) => p.theme.glance};
  }
`;

const Nothing = styled.p`
  padding: 0.375rem 0.75rem;
  background: ${(p) => p.theme.sheet};
  border: 0.0625rem solid ${(p) => p.theme.ruleStrong};
  font-size: ${(p) => p.theme.glance};
`;

/** What is at the technician's knee: trays, what is off, plugs apart, and what is between here and even. */
export function Bench({ view }: { view: View }) {
  const go = useNavigate();
  const [asked, setAsked] = useState<"goal" | "knee">();
  const going = view.current.kind === "out";
  const empty = view.trays.filter((t) => !going && !t.lit && t.holds === 0);
  const trays = view.trays.filter((t) => !empty.includes(t));
  return (
    <Column aria-label="Bench" tabIndex={0}>
      <h2>Trays</h2>
      {view.trays.length === 0 && <Nothing>Nothing to keep apart yet.</Nothing>}
      {trays.length > 0 && (
        <Trays>
          {trays.map((t) => (
            <Tray key={t.tray} $lit={t.lit}>
              <div>
                <span>{t.tray}</span>
                <output>{t.holds}</output>
              </div>
              {t.kind}
              <br />
              {t.to_come > 0 ? (
                <b>{t.to_come} to come</b>
              ) : t.go_home > 0 ? (
                <b>{t.go_home} go home now</b>
              ) : (
                t.lots.map((l) => `${t.lots.length > 1 ? `${l.count} ` : ""}${l.home}`).join(", ") || "empty"
              )}
            </Tray>
          ))}
        </Trays>
      )}
      {empty.length > 0 && (
        <Nothing>
          {empty.map((t) => t.tray).join(", ")}: {empty.length === 1 ? "empty" : "all empty"}
        </Nothing>
      )}
      {view.bags.length > 0 && (
        <List>
          {view.bags.map((b) => (
            <li key={b.lot}>
              <span>Bag</span>
              <span>{b.label}</span>
            </li>
          ))}
        </List>
      )}
      <h2>{going ? "Off the machine" : "Still off the machine"}</h2>
      {view.off.length === 0 ? (
        <Nothing>Nothing is off.</Nothing>
      ) : (
        <List>
          {view.off.map((o) => (
            <li key={o.item}>
              <span>{o.name}</span>
              <span>{o.where}</span>
            </li>
          ))}
        </List>
      )}
      {view.inside.length > 0 && (
        <>
          <h2>Remove before closing</h2>
          <List>
            {view.inside.map((t) => (
              <li key={t.what}>
                <span>{t.what}</span>
                <span>{t.say}</span>
              </li>
            ))}
          </List>
        </>
      )}
      <h2>Still to do</h2>
      {view.between.length === 0 ? (
        <Nothing>Nothing left. Ready to sign off.</Nothing>
      ) : (
        <List>
          {view.between.map((b, i) => (
            <li key={i}>
              <span>{b.what}</span>
              <span>{b.say}</span>
            </li>
          ))}
        </List>
      )}
      {view.plugs.length > 0 && (
        <>
          <h2>Plugs apart</h2>
          <List>
            {view.plugs.map((p) => (
              <li key={p.item}>
                <span>{p.name}</span>
                <span>
                  {p.wires.some((w) => w.tag > 0)
                    ? `tags ${p.wires
                        .filter((w) => w.tag > 0)
                        .map((w) => w.tag)
                        .join(", ")}`
                    : p.keyed
                      ? "keyed"
                      : "not keyed"}
                </span>
              </li>
            ))}
          </List>
        </>
      )}
      {view.differences.length > 0 && (
        <>
          <h2>Differs from the guide</h2>
          <List>
            {view.differences.map((d, i) => (
              <li key={i}>
                <span>{d.what}</span>
                <span>{d.is}</span>
              </li>
            ))}
          </List>
        </>
      )}
      <Ways>
        <Plain onPress={() => void go(`/jobs/${view.job}/even`)}>Even</Plain>
        <Plain onPress={() => void go(`/jobs/${view.job}/hands`)}>Hands busy</Plain>
        <Plain onPress={() => setAsked("goal")}>Add to the job</Plain>
        <Plain onPress={() => setAsked("knee")}>My tools and helpers</Plain>
        <Plain onPress={() => void go(`/jobs/${view.job}/hand-over`)}>Hand over</Plain>
        <Plain onPress={() => void go(`/jobs/${view.job}/about`)}>Who and where</Plain>
        <TorchSwitch />
        <HoldSwitches />
      </Ways>
      {asked === "goal" && <AddGoal view={view} onClose={() => setAsked(undefined)} />}
      {asked === "knee" && <AtTheKnee view={view} onClose={() => setAsked(undefined)} />}
    </Column>
  );
}
