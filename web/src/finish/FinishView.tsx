import { Button } from '@mantine/core';
import { useState } from 'react';
import { Link, useLocation, useSearchParams } from 'wouter';
import type { Packet, Page } from '../api/client';
import { allPages } from '../packet/apply';
import { useCommands } from '../packet/useCommands';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { Requirement } from '../shared/Requirement';
import { WithPacket } from '../shared/WithPacket';
import { t } from '../words';
import { FinishedPage } from './FinishedPage';
import classes from './FinishView.module.css';
import { SectionList, type Choice } from './SectionList';
import { SECTIONS, type Changed } from './sections';
import { SettingsPanel } from './SettingsPanel';

interface Props {
  id: string;
  page?: string;
}

/** What is added to the document: a list with switches, the page as it will be, the settings of what is chosen. */
export function FinishView({ id, page }: Props) {
  return <WithPacket id={id}>{(packet) => <Finish packet={packet} page={page} />}</WithPacket>;
}

function Finish({ packet, page: id }: { packet: Packet; page?: string }) {
  const asked = useSearchParams()[0].get('section') ?? '';
  const [chosen, setChosen] = useState<Choice>(asked in SECTIONS ? (asked as Choice) : 'numbers');
  // The kind of page that was asked for by choosing a section, until another page is.
  const [made, setMade] = useState<Page['made']>();
  const [, navigate] = useLocation();
  const { act } = useCommands(packet.id);
  const pages = allPages(packet);
  const page =
    pages.find((other) => made && other.made === made) ?? pages.find((other) => other.id === id) ?? pages[0];
  const show = (shown: string) => {
    setMade(undefined);
    navigate(`/packets/${packet.id}/finish/${shown}`, { replace: true });
  };
  const choose = (next: Choice) => {
    setChosen(next);
    setMade(next === 'annotations' ? undefined : SECTIONS[next].made);
  };
  const change = (changed: Changed) => void act([{ do: 'finish', ...changed }]);
  return (
    <div className={classes.view} data-messages="below-list">
      <Header
        title={<span className={headerClasses.name}>{packet.name}</span>}
        facts={<Requirement packet={packet} />}
      >
        <Button component={Link} href={`/packets/${packet.id}${page ? `?page=${page.id}` : ''}`}>
          {t('finish.backToTheBench')}
        </Button>
        <Button variant="filled" component={Link} href={`/packets/${packet.id}/export`}>
          {t('finish.export')}
        </Button>
      </Header>
      <div className={classes.work}>
        <SectionList packet={packet} chosen={chosen} onChoose={choose} onSwitch={change} />
        <main className={classes.middle}>
          {page ? (
            <FinishedPage
              packet={packet}
              pages={pages}
              page={page}
              chosen={chosen === 'annotations' ? undefined : SECTIONS[chosen].marks}
              onShow={show}
              onChange={change}
            />
          ) : (
            <p className={classes.empty}>{t('finish.noPages')}</p>
          )}
        </main>
        <SettingsPanel
          packet={packet}
          pages={pages}
          chosen={chosen}
          onShow={show}
          shown={page}
          onAct={(...commands) => void act(commands)}
        />
      </div>
    </div>
  );
}
