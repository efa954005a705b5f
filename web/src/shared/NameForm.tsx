import { Button, Group, Text, TextInput } from '@mantine/core';
import { useState } from 'react';
import { t } from '../words';
import { DialogForm } from './DialogForm';
import { LONGEST_NAME } from './InlineName';

interface Props {
  label: string;
  /** The name at first. */
  name: string;
  /** What the button says. */
  verb: string;
  /** Names that are offered. */
  proposals?: readonly string[];
  /** Names that cannot be given. */
  taken?: readonly string[];
  onName: (name: string) => void;
}

/** Asks for a name. */
export function NameForm({ label, name, verb, proposals = [], taken = [], onName }: Props) {
  const [next, setNext] = useState(name);
  const given = next.trim();
  return (
    <DialogForm verb={verb} disabled={given === '' || taken.includes(given)} onSubmit={() => onName(given)}>
      <TextInput
        label={label}
        data-autofocus
        maxLength={LONGEST_NAME}
        value={next}
        onChange={(event) => setNext(event.currentTarget.value)}
      />
      {proposals.length > 0 && (
        <Group gap={8} aria-label={t('shared.proposedNames')} role="group">
          <Text size="sm" c="dimmed">
            {t('shared.proposed')}
          </Text>
          {proposals.map((proposal) => (
            <Button key={proposal} size="compact-sm" onClick={() => setNext(proposal)}>
              {proposal}
            </Button>
          ))}
        </Group>
      )}
    </DialogForm>
  );
}
