import { useState, type MouseEvent } from "react";
import { Button } from "react-aria-components";
import styled from "styled-components";
import type { Make, Pin, Shown, Wire } from "../api/client";
import { usePhoto } from "../offline/photos";
import { Text } from "../parts/Fields";
import { Plain, Strong } from "../parts/Buttons";
import { Dialogue } from "../parts/Sheets";
import { clock } from "../parts/text";
import { useRecord } from "../job/here";

const Strip = styled.div`
  display: grid;
  gap: 0.5rem;
`;

const Card = styled(Button)`
  display: block;
  width: 100%;
  padding: 0;
  border: 0.125rem solid ${(p) => p.theme.ink};
  background: ${(p) => p.theme.sheet};
  color: ${(p) => p.theme.ink};
  font: 400 ${(p) => p.theme.small} / 1.25 ${(p) => p.theme.text};
  text-align: left;
  cursor: pointer;
  > span {
    display: block;
    padding: 0.3125rem 0.5625rem;
    border-top: 0.125rem solid ${(p) => p.theme.ink};
  }
  &[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: 0.125rem;
  }
`;

const Frame = styled.div<{ $tall?: boolean }>`
  position: relative;
  display: grid;
  place-items: center;
  min-height: 5.625rem;
  background: ${(p) => p.theme.well};
  img {
    display: block;
    width: 100%;
    max-height: ${(p) => (p.$tall ? "58vh" : "7.375rem")};
    object-fit: ${(p) => (p.$tall ? "contain" : "cover")};
    filter: ${(p) => (p.theme.name === "torch" ? "brightness(0.55)" : "none")};
  }
  p {
    padding: 0.75rem;
  }
`;

const Dot = styled.b`
  position: absolute;
  display: grid;
  place-items: center;
  min-width: 1.625rem;
  height: 1.625rem;
  padding: 0 0.3125rem;
  border-radius: 0.8125rem;
  transform: translate(-50%, -50%);
  background: ${(p) => p.theme.ink};
  color: ${(p) => p.theme.sheet};
  border: 0.125rem solid ${(p) => p.theme.sheet};
  font: 700 0.9375rem/1 ${(p) => p.theme.text};
  pointer-events: none;
`;

/** A lead that can be pinned, with its plug's name. */
export type PinLead = Wire & { plug: string };

/** What stands on a pin: the number of the lead's tag, its terminal, or the mark. */
const onPin = (pin: Pin, wires: PinLead[]) => {
  const wire = wires.find((w) => w.wire === pin.wire);
  if (wire) return wire.tag ? String(wire.tag) : wire.terminal;
  return pin.say || "•";
};

/** Whose picture, when, and of what. */
const captionOf = (p: Shown) =>
  `${p.by === "you" ? "your picture" : `${p.by}’s picture`}, ${clock(p.at)}, ${p.what.toLowerCase()}`;

interface PictureProps {
  photo: Shown;
  wires: PinLead[];
  whole?: boolean;
  onPlace?: (x: number, y: number) => void;
}

function Picture({ photo, wires, whole, onPlace }: PictureProps) {
  const here = usePhoto(photo.sha256, whole ? "whole" : "small");
  const place = (event: MouseEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    onPlace?.((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  };
  if (here.away) {
    return (
      <Frame>
        <p>This photo is on another device. It comes with signal.</p>
      </Frame>
    );
  }
  return (
    <Frame $tall={whole} aria-busy={!here.url}>
      {here.url && (
        <div style={{ position: "relative", width: whole ? "auto" : "100%" }} onClick={onPlace && place}>
          <img src={here.url} alt={`${photo.what}, by ${photo.by}`} />
          {photo.pins.map((pin, i) => (
            <Dot key={i} style={{ left: `${pin.x * 100}%`, top: `${pin.y * 100}%` }}>
              {onPin(pin, wires)}
            </Dot>
          ))}
        </div>
      )}
    </Frame>
  );
}

interface PhotosProps {
  photos: Shown[];
  wires: PinLead[];
  looking?: boolean;
  most?: number;
}

/** The photos of a rung, the newest first; one opens to be looked at and pinned. */
export function Photos({ photos, wires, looking, most = 2 }: PhotosProps) {
  const record = useRecord();
  const [open, setOpen] = useState<string>();
  const seen = photos.find((p) => p.event === open);
  if (photos.length === 0) return null;
  return (
    <Strip>
      {photos.slice(0, most).map((p) => (
        <Card key={p.event} onPress={() => setOpen(p.event)} aria-label={`Photo: ${captionOf(p)}`}>
          <Picture photo={p} wires={wires} />
          <span>{captionOf(p)}</span>
        </Card>
      ))}
      {photos.length > most && <small>{photos.length - most} more, older</small>}
      {seen && (
        <Viewer
          key={seen.event}
          photo={seen}
          wires={wires}
          looking={looking}
          record={async (makes) => {
            setOpen(undefined);
            return record(makes);
          }}
          onClose={() => setOpen(undefined)}
        />
      )}
    </Strip>
  );
}

interface ViewerProps {
  photo: Shown;
  wires: PinLead[];
  looking?: boolean;
  record: (makes: Make[]) => Promise<boolean>;
  onClose: () => void;
}

/** One photo large: a touch on it sets a pin, for a lead or with a short mark. */
function Viewer({ photo, wires, looking, record, onClose }: ViewerProps) {
  const [pins, setPins] = useState(photo.pins);
  const [at, setAt] = useState<{ x: number; y: number }>();
  const [say, setSay] = useState("");
  const pin = (what: Partial<Pin>) => {
    if (!at) return;
    setPins([...pins, { ...at, ...what }]);
    setAt(undefined);
    setSay("");
  };
  const changed = pins !== photo.pins;
  return (
    <Dialogue title={photo.what} open onClose={onClose}>
      <Picture
        photo={{ ...photo, pins: at ? [...pins, { ...at, say: "?" }] : pins }}
        wires={wires}
        whole
        onPlace={looking ? undefined : (x, y) => setAt({ x, y })}
      />
      <small>
        By {photo.by}, {clock(photo.at)}.{" "}
        {!looking && !at && "Touch the picture where a lead or a screw sits to set a pin."}
      </small>
      {at && (
        <>
          {wires
            .filter((w) => !pins.some((p) => p.wire === w.wire))
            .slice(0, 12)
            .map((w) => (
              <Plain key={w.wire} onPress={() => pin({ wire: w.wire })}>
                {w.tag ? `${w.tag}: ` : ""}
                {w.plug}, {w.terminal}, {w.says}
              </Plain>
            ))}
          <Text label="Or a short mark" value={say} onChange={setSay} most={12} />
          <Plain isDisabled={!say.trim()} onPress={() => pin({ say: say.trim() })}>
            Set the mark
          </Plain>
        </>
      )}
      {changed && (
        <Strong
          onPress={() => void record([{ kind: "photo", body: { sha256: photo.sha256, on: photo.on, pins } }])}
        >
          Keep the pins
        </Strong>
      )}
      <Plain onPress={onClose}>{changed ? "Leave it as it was" : "Close"}</Plain>
    </Dialogue>
  );
}
