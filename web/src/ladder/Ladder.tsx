import { memo, useLayoutEffect, useRef, useState } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Rung, View } from "../api/client";
import { Flag } from "../parts/Marks";
import { band } from "../parts/text";
import { phone } from "../parts/theme";

const foldHeight = 30;

/** A long name takes two or three lines; the current rung's is larger. */
const rowHeight = (r: Pick<Rung, "title" | "current">) =>
  r.current
    ? Math.max(82, 48 + 23 * Math.ceil(r.title.length / 14))
    : r.title.length > 38
      ? 80
      : r.title.length > 17
        ? 62
        : 44;

const Column = styled.nav`
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: ${(p) => p.theme.sheet};
  border-right: 0.125rem solid ${(p) => p.theme.ink};
  ${phone} {
    border-right: 0;
  }
`;

const Head = styled.div`
  display: flex;
  justify-content: space-between;
  padding: 0.75rem 1rem 0.375rem;
  font-weight: 700;
  font-size: ${(p) => p.theme.glance};
  span:first-child {
    color: ${(p) => p.theme.out};
  }
  span:last-child {
    color: ${(p) => p.theme.back};
  }
  span:nth-child(2) {
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
  }
`;

const Rows = styled.ol`
  position: relative;
  flex: 1;
  min-height: 0;
  overflow: hidden;
  /* The two rails. */
  &::before,
  &::after {
    content: "";
    position: absolute;
    top: 0;
    bottom: 0;
    width: 0.25rem;
    background: ${(p) => p.theme.ruleStrong};
  }
  &::before {
    left: 1.9375rem;
  }
  &::after {
    right: 1.9375rem;
  }
`;

const Item = styled.li<{ $dashed: boolean }>`
  position: relative;
  z-index: 1;
  &::before {
    content: "";
    position: absolute;
    left: 2.0625rem;
    right: 2.0625rem;
    top: 0;
    border-top: 0.125rem ${(p) => (p.$dashed ? "dashed" : "solid")} ${(p) => p.theme.ruleStrong};
  }
`;

const Row = styled(Button)<{ $current: boolean; $shown: boolean; $height: number }>`
  position: relative;
  display: grid;
  grid-template-columns: 4.125rem minmax(0, 1fr) 4.125rem;
  align-items: center;
  width: 100%;
  height: ${(p) => p.$height}px;
  padding: 0;
  border: solid ${(p) => p.theme.ink};
  border-width: ${(p) => (p.$current ? "0.1875rem 0" : "0")};
  background: ${(p) => (p.$current ? p.theme.lit : "transparent")};
  color: ${(p) => p.theme.ink};
  font: 600 1.0625rem/1.1 ${(p) => p.theme.text};
  text-align: left;
  cursor: pointer;
  svg {
    justify-self: center;
  }
  span.words {
    grid-column: 2;
    ${(p) => p.$shown && !p.$current && "text-decoration: underline; text-underline-offset: 0.1875rem;"}
    ${(p) => p.$current && "font-size: 1.3125rem; font-weight: 700;"}
  }
  small {
    display: block;
    font-size: ${(p) => p.theme.small};
    font-weight: 400;
    color: ${(p) => p.theme.inkQuiet};
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  svg.back {
    grid-column: 3;
  }
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: -0.25rem;
  }
`;

const Cell = styled.span`
  display: grid;
  place-items: center;
`;

const Fold = styled.li`
  position: relative;
  z-index: 1;
  height: ${foldHeight}px;
  padding: 0.3125rem 4.125rem;
  font-size: ${(p) => p.theme.small};
  color: ${(p) => p.theme.inkQuiet};
`;

const Foot = styled.div`
  padding: 0.625rem 1rem 0.75rem;
  background: ${(p) => p.theme.strong};
  color: ${(p) => p.theme.doneText};
  border-top: 0.125rem solid ${(p) => p.theme.ink};
  strong {
    display: block;
    font-size: ${(p) => p.theme.work};
    line-height: 1.2;
  }
  span {
    font-size: ${(p) => p.theme.glance};
  }
`;

/** Says what the folded rungs are, so that nothing hides in them. */
function folded(rungs: Rung[]): string {
  const off = rungs.filter((r) => r.out === "done" && r.back !== "done" && r.back !== "none").length;
  const todo = rungs.filter((r) => r.out === "todo").length;
  const parts = [off > 0 && `${off} still off`, todo > 0 && `${todo} to come`].filter(Boolean);
  return `${rungs.length} more${parts.length ? `, ${parts.join(", ")}` : ", back"}`;
}

/**
 * Which rungs fit a height: the current one with two before and three after, and
 * as many more, first after and then before, as there is room for.
 */
export function fold(heights: number[], current: number, height: number): [number, number] {
  const sum = (from: number, to: number) => heights.slice(from, to).reduce((a, b) => a + b, 0);
  if (height === 0 || sum(0, heights.length) <= height) return [0, heights.length];
  const fits = (from: number, to: number) =>
    sum(from, to) + (from > 0 ? foldHeight : 0) + (to < heights.length ? foldHeight : 0) <= height;
  let from = Math.max(0, current - 2);
  let to = Math.min(heights.length, current + 4);
  while (!fits(from, to) && to > current + 1) to--;
  while (!fits(from, to) && from < current) from++;
  for (;;) {
    if (to < heights.length && fits(from, to + 1)) to++;
    else if (from > 0 && fits(from - 1, to)) from--;
    else return [from, to];
  }
}

interface LadderRowProps {
  rung: Rung;
  height: number;
  shown: boolean;
  onShow: (rung: string) => void;
}

/** One step with its two cells; drawn again only when something of it has changed. */
const LadderRow = memo(function LadderRow({ rung: r, height, shown, onShow }: LadderRowProps) {
  return (
    <Item $dashed={r.kind === "check"}>
      <Row
        $current={r.current}
        $height={height}
        $shown={shown}
        aria-current={r.current ? "step" : undefined}
        onPress={() => onShow(r.id)}
      >
        <Cell>
          <Flag side="out" mark={r.out} size={r.current ? 38 : 28} />
        </Cell>
        <span className="words">
          {r.title}
          <small>{r.sub}</small>
        </span>
        <Cell>
          <Flag side="back" mark={r.back} size={r.current ? 38 : 28} />
        </Cell>
      </Row>
    </Item>
  );
});

interface LadderProps {
  view: View;
  shown?: string;
  onShow: (rung: string) => void;
}

/** The two-railed ladder: what went out on the left rail comes back on the right. */
export function Ladder({ view, shown, onShow }: LadderProps) {
  const box = useRef<HTMLOListElement>(null);
  const [height, setHeight] = useState(0);
  useLayoutEffect(() => {
    const element = box.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setHeight(element.clientHeight));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);

  const rungs = view.rungs;
  const at = rungs.findIndex((r) => r.current);
  const lastOut = rungs.reduce((last, r, i) => (r.out === "done" ? i : last), 0);
  const heights = rungs.map(rowHeight);
  const [from, to] = fold(heights, at < 0 ? lastOut : at, height);
  const { foot, current } = view;
  const count =
    current.kind === "out"
      ? `${foot.made} of ${foot.rungs} out`
      : foot.off > 0
        ? `${foot.off} still off`
        : rungs.length > 0
          ? "all back"
          : "no steps yet";
  const time = band(foot.p50, foot.p80);
  return (
    <Column aria-label="Steps">
      <Head>
        <span>out</span>
        <span>{count}</span>
        <span>back</span>
      </Head>
      <Rows ref={box}>
        {rungs.length === 0 && <Fold>The steps stand here once it is known what to test or fit.</Fold>}
        {from > 0 && <Fold>{folded(rungs.slice(0, from))}</Fold>}
        {rungs.slice(from, to).map((r, i) => (
          <LadderRow
            key={r.id}
            rung={r}
            height={heights[from + i] ?? 0}
            shown={shown === r.id}
            onShow={onShow}
          />
        ))}
        {to < rungs.length && <Fold>{folded(rungs.slice(to))}</Fold>}
      </Rows>
      <Foot>
        <strong>{foot.title}</strong>
        {(time || view.even) && <span>{time ? `${time} to go` : "nothing left to do"}</span>}
        {foot.doubt && <span>{foot.doubt}</span>}
      </Foot>
    </Column>
  );
}
