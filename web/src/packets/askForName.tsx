import { modals } from '@mantine/modals';
import { NameForm } from '../shared/NameForm';
import { t } from '../words';

interface Question {
  title: string;
  name: string;
  verb: string;
  taken?: readonly string[];
  onName: (name: string) => void;
}

/** Asks for a name of a packet, in a dialog. */
export function askForName({ title, onName, ...form }: Question) {
  const id = modals.open({
    title,
    children: (
      <NameForm
        {...form}
        label={t('packets.name')}
        onName={(name) => {
          modals.close(id);
          onName(name);
        }}
      />
    ),
  });
}
