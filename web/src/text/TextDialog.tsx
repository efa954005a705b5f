import { Alert, Anchor, Button, Checkbox, Group, Modal, Radio, Stack } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'wouter';
import type { Packet, TextStatus } from '../api/client';
import { useReadText, useStopReading, useText } from '../api/textQueries';
import { allPages } from '../packet/apply';
import { count, pagesInWords } from '../shared/format';
import { notifyProblem } from '../shared/notify';
import { say, t } from '../words';
import classes from './TextDialog.module.css';

interface Props {
  packet: Packet;
  /** The pages that acts would be on. */
  chosen: readonly string[];
  opened: boolean;
  onClose: () => void;
}

/** Having the text of pages recognised, so that they can be searched: here, and in the document. */
export function TextDialog({ packet, chosen, opened, onClose }: Props) {
  return (
    <Modal opened={opened} onClose={onClose} title={t('text.makeSearchable')} size={520}>
      <TextForm packet={packet} chosen={chosen} onClose={onClose} />
    </Modal>
  );
}

function TextForm({ packet, chosen, onClose }: Omit<Props, 'opened'>) {
  const { data: status } = useText(packet.id);
  if (!status) return null;
  return (
    <Stack gap={14}>
      <Summary packet={packet} status={status} />
      {status.installed ? (
        <OrderForm packet={packet} status={status} chosen={chosen} onClose={onClose} />
      ) : (
        <Alert color="amber">{say(status.advice)}</Alert>
      )}
    </Stack>
  );
}

/** Which pages have text, which have none, and what went wrong. */
function Summary({ packet, status }: { packet: Packet; status: TextStatus }) {
  const stop = useStopReading(packet.id);
  const { own, read, without, waiting, problems } = status;
  const numbers = new Map(allPages(packet).map((page) => [page.id, page.number]));
  const parts = [
    own.length > 0 && t('text.haveTheirOwn', { pages: count(own.length, 'page'), count: own.length }),
    read.length > 0 && t('text.wereRead', { pages: count(read.length, 'page'), count: read.length }),
    without.length > 0 && t('text.haveNone', { pages: count(without.length, 'page'), count: without.length }),
  ].filter((words) => words !== false);
  return (
    <div>
      <p className={classes.summary}>{parts.join(' ')}</p>
      {waiting.length > 0 && (
        <Group gap={10} className={classes.waiting} role="status">
          {t('text.stillToRead', { pages: count(waiting.length, 'page') })}
          <Button size="compact-sm" onClick={() => stop.mutate()} loading={stop.isPending}>
            {t('text.stop')}
          </Button>
        </Group>
      )}
      {status.doubtful > 0 && (
        <p className={classes.doubtful}>
          <Anchor component={Link} href={`/packets/${packet.id}/words`} c="var(--spruce-text)" fw={600}>
            {t('text.lookAtDoubtful', { count: status.doubtful })}
          </Anchor>
        </p>
      )}
      {problems.length > 0 && (
        <ul className={classes.problems}>
          {problems.slice(0, MOST_PROBLEMS).map(({ page, problem }) => (
            <li key={page}>
              <b>{pagesInWords([numbers.get(page) ?? 0])}</b> {say(problem)}
            </li>
          ))}
          {problems.length > MOST_PROBLEMS && (
            <li>{t('text.andMore', { pages: count(problems.length - MOST_PROBLEMS, 'page') })}</li>
          )}
        </ul>
      )}
    </div>
  );
}

const MOST_PROBLEMS = 6;

type Which = 'all' | 'chosen';

function OrderForm({ packet, status, chosen, onClose }: Omit<Props, 'opened'> & { status: TextStatus }) {
  const [languages, setLanguages] = useState(status.languages);
  const [which, setWhich] = useState<Which>('all');
  const [every, setEvery] = useState(status.every);
  const [again, setAgain] = useState(false);
  const readText = useReadText(packet.id);
  const told = new Set(status.problems.map(({ page }) => page));
  const readable = new Set([
    ...status.without,
    ...(again ? status.read : []),
    ...(which === 'chosen' ? status.own.filter((page) => told.has(page)) : []), // whose text is broken
  ]);
  const pages = which === 'all' ? [...readable] : chosen.filter((page) => readable.has(page));
  const isChanged = every !== status.every || languages.join() !== status.languages.join();
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        readText.mutate(
          { languages, every, again, ...(which === 'chosen' ? { pages: [...chosen] } : {}) },
          { onSuccess: onClose, onError: (error) => notifyProblem(error.message) },
        );
      }}
    >
      <Stack gap={14}>
        <Radio.Group label={t('text.whichPages')} value={which} onChange={(value) => setWhich(value)}>
          <Group gap={18} mt={6}>
            <Radio value="all" label={t('text.allWithoutText')} data-autofocus />
            <Radio
              value="chosen"
              label={t('text.selectedOnly', { count: chosen.length })}
              disabled={chosen.length === 0}
            />
          </Group>
        </Radio.Group>
        <Checkbox.Group
          label={t('text.languages')}
          value={languages}
          onChange={setLanguages}
          error={languages.length === 0 && t('text.chooseALanguage')}
        >
          <div className={classes.languages}>
            {status.available.map(({ code, name }) => (
              <Checkbox key={code} value={code} label={name} />
            ))}
          </div>
        </Checkbox.Group>
        <Checkbox
          label={t('text.everyPage')}
          checked={every}
          onChange={(event) => setEvery(event.currentTarget.checked)}
        />
        <Checkbox
          label={t('text.again')}
          checked={again}
          disabled={status.read.length === 0}
          onChange={(event) => setAgain(event.currentTarget.checked)}
        />
        <Group justify="space-between">
          <span className="soft small">{t('text.howLong')}</span>
          <Button
            type="submit"
            variant="filled"
            loading={readText.isPending}
            disabled={languages.length === 0 || (pages.length === 0 && !isChanged)}
          >
            {pages.length > 0 ? t('text.readPages', { pages: count(pages.length, 'page') }) : t('text.keep')}
          </Button>
        </Group>
      </Stack>
    </form>
  );
}
