import { useHeadings } from '../../api/textQueries';
import { proposedNames } from '../../packet/titles';
import { NameForm } from '../../shared/NameForm';
import { t } from '../../words';
import type { FormProps } from './BenchDialogs';

/** The packet's name. */
export function RenameForm({ packet, onDo }: FormProps) {
  const { data: headings } = useHeadings(packet, true);
  return (
    <NameForm
      label={t('bench.nameOfThePacket')}
      name={packet.name}
      verb={t('bench.rename')}
      proposals={proposedNames(packet, headings)}
      taken={[packet.name]}
      onName={(title) => onDo([{ do: 'rename', title }])}
    />
  );
}
