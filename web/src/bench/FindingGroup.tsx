import { ActionIcon, Button, Menu } from '@mantine/core';
import { IconChevronDown, IconChevronRight, IconDots } from '@tabler/icons-react';
import { useState } from 'react';
import { Link } from 'wouter';
import type { Command, Finding } from '../api/client';
import { kindWords, settleAll, type FindingGroupData } from '../packet/findingGroups';
import classes from './ToCheck.module.css';
import { say, t } from '../words';

interface Props {
  group: FindingGroupData;
  onShow: (page: string) => void;
  onSettle: (commands: Command[]) => void;
  /** Where a finding is settled, if that is another view. */
  viewOf: (finding: Finding) => string | undefined;
  /** Opens what settles a finding here. */
  onOpen: (finding: Finding) => void;
  onAccept: (findings: Finding[]) => void;
}

/** Findings of one kind: one line, or a line for all that opens to each. */
export function FindingGroup({ group, ...acts }: Props) {
  const [opened, setOpened] = useState(false);
  const { kind, findings } = group;
  const words = kindWords[kind];
  const [first] = findings;
  if (!first) return null;
  if (findings.length === 1) return <FindingLine finding={first} {...acts} />;
  const settle = settleAll(findings);
  return (
    <>
      <div className={classes.finding}>
        <button
          type="button"
          className={classes.opener}
          aria-expanded={opened}
          onClick={() => setOpened(!opened)}
        >
          {opened ? <IconChevronDown size={14} /> : <IconChevronRight size={14} />}
          <span className={classes.text}>{words.many(findings.length)}</span>
        </button>
        {settle.length > 0 && words.settle && (
          <Button variant="subtle" color="spruce" onClick={() => acts.onSettle(settle)}>
            {words.settle(findings.length, findings)}
          </Button>
        )}
        <Acceptance
          label={words.many(findings.length)}
          words={t('bench.leaveAllAsTheyAre')}
          onAccept={() => acts.onAccept(findings)}
        />
      </div>
      {opened && (
        <div className={classes.inner}>
          {findings.map((finding) => (
            <FindingLine key={finding.key} finding={finding} {...acts} />
          ))}
        </div>
      )}
    </>
  );
}

function FindingLine({
  finding,
  onShow,
  onSettle,
  viewOf,
  onOpen,
  onAccept,
}: Omit<Props, 'group'> & { finding: Finding }) {
  const words = kindWords[finding.kind];
  const { settle, page } = finding;
  const view = viewOf(finding);
  return (
    <div className={classes.finding}>
      <i className={classes.mark} data-mild />
      {page ? (
        <button
          type="button"
          className={classes.link}
          onClick={() => onShow(page)}
          title={t('bench.showThePage')}
        >
          {say(finding.sentence)}
        </button>
      ) : (
        <span className={classes.text}>{say(finding.sentence)}</span>
      )}
      {settle && settle.length > 0 && words.settle && (
        <Button variant="subtle" color="spruce" onClick={() => onSettle(settle)}>
          {words.settle(1, [finding])}
        </Button>
      )}
      {words.open && view && (
        <Button variant="subtle" color="spruce" component={Link} href={view}>
          {words.open}
        </Button>
      )}
      {words.open && !view && (
        <Button variant="subtle" color="spruce" onClick={() => onOpen(finding)}>
          {words.open}
        </Button>
      )}
      <Acceptance label={say(finding.sentence)} words={words.accept} onAccept={() => onAccept([finding])} />
    </div>
  );
}

function Acceptance({ label, words, onAccept }: { label: string; words: string; onAccept: () => void }) {
  return (
    <Menu position="bottom-end" shadow="md" withinPortal>
      <Menu.Target>
        <ActionIcon variant="subtle" color="gray" size="sm" aria-label={t('bench.moreOn', { label })}>
          <IconDots size={14} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item onClick={onAccept}>{words}</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
