import { memo, useLayoutEffect, useRef, useState } from "react";
import type { Rung, View } from "../api/client";
import { Flag } from "../parts/Marks";
import { band } from "../parts/text";
import { Column, Head, Rows, Item, Row, Cell, Fold, Foot, foldHeight } from "./ladderShapes";

/** A long name takes two or three lines; the current rung's is larger. */
const rowHeight = (r: Pick<Rung, "title" | "current">) =>
  r.current
    ? Math.max(82, 48 + 23 * Math.ceil(r.title.length / 14))
    : r.title.length > 38
      ? 80
      : r.title.length > 17
        ? 62
        : 44;

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
