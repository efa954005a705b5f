import { Button, Menu } from '@mantine/core';
import { IconChevronDown } from '@tabler/icons-react';
import type { Packet, PaperState, Part, Requirements } from '../api/client';
import type { ActContext } from '../bench/acts/act';
import { listed } from '../shared/format';
import { StateSign } from '../shared/StateSign';
import { say, t } from '../words';
import classes from './RequirementsPanel.module.css';

interface Props {
  packet: Packet;
  requirements: Requirements;
  bench: ActContext;
}

/** The papers that are asked for, each with the parts that are it; parts are dropped on them too. */
export function PapersList({ packet, requirements, bench }: Props) {
  const { papers, proposal, order, titles } = requirements;
  const here = papers.filter(({ state, partIds }) => state === 'met' && partIds.length > 0).length;
  return (
    <section aria-label={t('requirements.papers')}>
      <h3 className={classes.heading}>
        {t('requirements.papers')}{' '}
        <span className="soft small">{t('requirements.papersHere', { here, all: papers.length })}</span>
      </h3>
      <ol className={classes.papers}>
        {papers.map((paper, i) => (
          <PaperRow key={paper.title} packet={packet} paper={paper} number={i + 1} bench={bench} />
        ))}
      </ol>
      <div className={classes.papersActs}>
        {proposal && (
          <Button size="compact-sm" onClick={() => bench.act(proposal)}>
            {t('requirements.takeProposal', { count: proposal.length })}
          </Button>
        )}
        {order && (
          <Button size="compact-sm" onClick={() => bench.act(order)}>
            {t('requirements.putInOrder')}
          </Button>
        )}
        {titles && (
          <Button size="compact-sm" onClick={() => bench.act(titles)}>
            {t('requirements.takeTitles')}
          </Button>
        )}
      </div>
    </section>
  );
}

interface RowProps {
  packet: Packet;
  paper: PaperState;
  number: number;
  bench: ActContext;
}

function PaperRow({ packet, paper, number, bench }: RowProps) {
  const are = packet.parts.filter((part) => part.paper === paper.title);
  const seem = packet.parts.filter(({ id }) => paper.proposedIds.includes(id));
  const choose = (part: Part) =>
    bench.act([
      { do: 'paper', parts: [part.id], paper: part.paper === paper.title ? undefined : paper.title },
    ]);
  return (
    <li className={classes.paper} data-state={paper.state} data-paper={paper.title}>
      <span className={classes.number}>{number}</span>
      <StateSign state={paper.state} />
      <div className={classes.told}>
        <b>{paper.title}</b>
        {paper.wanted > 1 && (
          <span className="soft"> {t('requirements.atLeast', { count: paper.wanted })}</span>
        )}
        <div className="soft small">
          {[listed(are.map(({ title }) => title)), say(paper.why)].filter(Boolean).join(' · ')}
          {are.length === 0 &&
            seem.length > 0 &&
            ` · ${t('requirements.seemsToBe', { parts: listed(seem.map(({ title }) => title)) })}`}
        </div>
      </div>
      <Menu position="bottom-end" withinPortal>
        <Menu.Target>
          <Button
            size="compact-sm"
            rightSection={<IconChevronDown size={14} />}
            aria-label={t('requirements.choosePartFor', { paper: paper.title })}
          >
            {t('requirements.choosePart')}
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          {packet.parts.map((part) => (
            <Menu.Item
              key={part.id}
              onClick={() => choose(part)}
              rightSection={part.paper === paper.title ? '✓' : undefined}
            >
              {part.title}
            </Menu.Item>
          ))}
          {paper.state !== 'met' && (
            <>
              <Menu.Divider />
              <Menu.Item onClick={() => bench.insert('end')}>{t('requirements.addIt')}</Menu.Item>
              <Menu.Item onClick={() => bench.open('scan')}>{t('requirements.scanIt')}</Menu.Item>
            </>
          )}
        </Menu.Dropdown>
      </Menu>
    </li>
  );
}
