import styled, { useTheme } from "styled-components";
import type { Picture } from "../api/client";

const Figure = styled.figure`
  display: grid;
  justify-items: center;
  gap: 4px;
  font-size: ${(p) => p.theme.small};
  color: ${(p) => p.theme.inkQuiet};
`;

const tall = 250;
const widest = 200;

/** A face of the cabinet, drawn from the map: this rung's items lit, its fasteners where they sit. */
export function Cabinet({ picture }: { picture: Picture }) {
  const t = useTheme();
  if (picture.shapes.length === 0 && picture.marks.length === 0) return null;
  const scale = Math.min(tall / picture.height, widest / picture.width);
  const [w, h] = [picture.width * scale, picture.height * scale];
  const trays = [...new Map(picture.marks.map((m) => [m.tray, m])).values()].filter((m) => m.tray);
  // Large shapes first, so that the small ones lie on them.
  const shapes = [...picture.shapes].sort((a, b) => size(b.area) - size(a.area));
  const labels = trays
    .map((m) => ({ tray: m.tray, x: (m.at[0] ?? 0) * w, y: (m.at[1] ?? 0) * h }))
    .sort((a, b) => a.y - b.y)
    .map((l, i, all) => ({ ...l, at: Math.max(l.y, (i > 0 ? (all[i - 1]?.y ?? 0) : -99) + 22) }));
  return (
    <Figure>
      <svg
        width={w + 44}
        height={h + 4}
        viewBox={`-2 -2 ${w + 44} ${h + 4}`}
        role="img"
        aria-label={`The ${picture.face} of the machine: ${shapes
          .filter((s) => s.lit)
          .map((s) => s.name)
          .join(", ")}`}
      >
        <rect width={w} height={h} fill={t.sheet} stroke={t.ruleStrong} strokeWidth="2" />
        {shapes.map((s) => {
          if (s.area.length === 4) {
            const [x = 0, y = 0, sw = 0, sh = 0] = s.area;
            const common = {
              fill: s.lit ? t.lit : "none",
              stroke: s.lit ? t.ink : t.ruleStrong,
              strokeWidth: s.lit ? 3 : 1.6,
              strokeDasharray: s.off ? "5 4" : undefined,
            };
            return s.type === "door" ? (
              <g key={s.item}>
                <ellipse
                  cx={(x + sw / 2) * w}
                  cy={(y + sh / 2) * h}
                  rx={(sw * w) / 2}
                  ry={(sh * h) / 2}
                  {...common}
                  strokeWidth={1.8}
                />
                <ellipse
                  cx={(x + sw / 2) * w}
                  cy={(y + sh / 2) * h}
                  rx={(sw * w) / 2 - 7}
                  ry={(sh * h) / 2 - 7}
                  {...common}
                  fill="none"
                  strokeWidth={1.2}
                />
              </g>
            ) : (
              <rect key={s.item} x={x * w} y={y * h} width={sw * w} height={sh * h} {...common} />
            );
          }
          const [x = 0, y = 0] = s.at;
          return s.type === "connector" ? (
            <rect
              key={s.item}
              x={x * w - 9}
              y={y * h - 6}
              width="18"
              height="12"
              fill={t.sheet}
              stroke={t.ink}
              strokeWidth="2.4"
            />
          ) : (
            <circle key={s.item} cx={x * w} cy={y * h} r="13" fill={t.lit} stroke={t.ink} strokeWidth="2.4" />
          );
        })}
        {picture.marks.map((m, i) => (
          <Fastener key={i} x={(m.at[0] ?? 0) * w} y={(m.at[1] ?? 0) * h} drive={m.drive} hidden={m.hidden} />
        ))}
        {labels.map((l) => (
          <g key={l.tray}>
            <path d={`M${l.x + 8} ${l.y} L${w + 16} ${l.at}`} stroke={t.ink} strokeWidth="1.2" />
            <text x={w + 20} y={l.at + 6} fontSize="18" fontWeight="700" fill={t.ink}>
              {l.tray}
            </text>
          </g>
        ))}
      </svg>
      <figcaption>
        {picture.face === "rear"
          ? "seen from behind"
          : picture.face === "top"
            ? "seen from above"
            : picture.face === "inside"
              ? "inside, seen from the front"
              : `seen from the ${picture.face}`}
      </figcaption>
    </Figure>
  );
}

const size = (area: number[]) => (area[2] ?? 0) * (area[3] ?? 0);

function Fastener({ x, y, drive, hidden }: { x: number; y: number; drive: string; hidden: boolean }) {
  const t = useTheme();
  const line = { stroke: t.ink, strokeWidth: 2, strokeDasharray: hidden ? "2 2" : undefined };
  if (drive === "hex" || drive === "nut") {
    const points = [0, 1, 2, 3, 4, 5].map(
      (i) => `${x + 7 * Math.cos((i * Math.PI) / 3)},${y + 7 * Math.sin((i * Math.PI) / 3)}`,
    );
    return <polygon points={points.join(" ")} fill={t.sheet} {...line} />;
  }
  if (drive === "phillips" || drive === "pozidriv") {
    return (
      <g>
        <circle cx={x} cy={y} r="7" fill={t.sheet} {...line} />
        <path d={`M${x - 4} ${y} h8 M${x} ${y - 4} v8`} {...line} />
      </g>
    );
  }
  return <circle cx={x} cy={y} r="6" fill={t.sheet} {...line} />;
}
