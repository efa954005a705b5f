import { Button, Group, Stack } from '@mantine/core';
import type { ReactNode } from 'react';

interface Props {
  children: ReactNode;
  /** What the button says. */
  verb: string;
  disabled?: boolean;
  onSubmit: () => void;
}

/** A form in a dialog, with its one button. */
export function DialogForm({ children, verb, disabled, onSubmit }: Props) {
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!disabled) onSubmit();
      }}
    >
      <Stack gap={14}>
        {children}
        <Group justify="flex-end">
          <Button type="submit" variant="filled" disabled={disabled}>
            {verb}
          </Button>
        </Group>
      </Stack>
    </form>
  );
}
