import { Checkbox } from '@mantine/core';

interface Props {
  label: string;
  description: string;
  /** Whether it is done to each of the pages. */
  on: boolean[];
  onChange: (on: boolean) => void;
}

/** Something that is done to several pages at once. */
export function OnAll({ label, description, on, onChange }: Props) {
  const all = on.every(Boolean);
  return (
    <Checkbox
      label={label}
      description={description}
      checked={all}
      indeterminate={!all && on.some(Boolean)}
      onChange={(event) => onChange(event.currentTarget.checked)}
    />
  );
}
