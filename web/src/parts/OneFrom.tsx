import { Button, Label, ListBox, ListBoxItem, Popover, Select, SelectValue } from "react-aria-components";
import styled from "styled-components";

const Box = styled(Select)`
  flex: 2 1 11.25rem;
  display: grid;
  gap: 0.25rem;
  min-width: 0;
  font-size: ${(p) => p.theme.glance};
  font-weight: 600;
  > button {
    display: flex;
    align-items: center;
    justify-content: space-between;
    gap: 0.75rem;
    min-height: ${(p) => p.theme.touchSmall};
    padding: 0.25rem 0.75rem;
    border: 0.125rem solid ${(p) => p.theme.ink};
    background: ${(p) => p.theme.field};
    color: ${(p) => p.theme.ink};
    font: 600 ${(p) => p.theme.work} / 1.2 ${(p) => p.theme.text};
    text-align: left;
    cursor: pointer;
  }
  > button[data-disabled] {
    border-style: dashed;
    color: ${(p) => p.theme.inkQuiet};
  }
  > button[data-focus-visible] {
    outline: 0.1875rem solid ${(p) => p.theme.ink};
    outline-offset: 0.125rem;
  }
`;

const List = styled(Popover)`
  width: var(--trigger-width);
  min-width: 14rem;
  max-height: 20rem;
  overflow: auto;
  background: ${(p) => p.theme.sheet};
  border: 0.125rem solid ${(p) => p.theme.ink};
`;

const One = styled(ListBoxItem)`
  padding: 0.75rem;
  min-height: 3rem;
  color: ${(p) => p.theme.ink};
  font: 500 ${(p) => p.theme.work} / 1.2 ${(p) => p.theme.text};
  cursor: pointer;
  & + & {
    border-top: 0.0625rem solid ${(p) => p.theme.rule};
  }
  &[data-focused] {
    background: ${(p) => p.theme.lit};
  }
  &[data-selected] {
    background: ${(p) => p.theme.strong};
    color: ${(p) => p.theme.doneText};
  }
`;

export interface Named {
  id: string;
  name: string;
}

interface OneFromProps {
  label: string;
  /** The label is heard alone, where a heading says it already. */
  heard?: boolean;
  of: readonly Named[];
  value: string;
  onChange: (id: string) => void;
  /** What stands there while nothing is chosen. */
  none?: string;
  /** It may be left out; the words for that are the first of the list. */
  optional?: boolean;
}

/** One of several, where there are too many for buttons: a list that a letter leads through. */
export function OneFrom({ label, heard, of, value, onChange, none = "choose", optional }: OneFromProps) {
  // A list has no empty key of its own.
  const key = (id: string) => id || "none";
  const all = optional ? [{ id: "", name: none }, ...of] : of;
  return (
    <Box
      aria-label={heard ? label : undefined}
      placeholder={none}
      isDisabled={all.length === 0}
      value={value || optional ? key(value) : null}
      onChange={(id) => onChange(id === "none" ? "" : String(id))}
    >
      {!heard && <Label>{label}</Label>}
      <Button>
        <SelectValue />
        <span aria-hidden="true">▾</span>
      </Button>
      <List>
        <ListBox>
          {all.map((o) => (
            <One key={o.id} id={key(o.id)} textValue={o.name}>
              {o.name}
            </One>
          ))}
        </ListBox>
      </List>
    </Box>
  );
}
