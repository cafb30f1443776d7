import { Text } from "../parts/Fields";

interface OwnPasswordProps {
  value: string;
  onChange: (value: string) => void;
}

/** One’s own password once more, before what only its owner may do. */
export const OwnPassword = ({ value, onChange }: OwnPasswordProps) => (
  <Text
    label="Your password"
    type="password"
    autoComplete="current-password"
    most={200}
    value={value}
    onChange={onChange}
    first
  />
);
