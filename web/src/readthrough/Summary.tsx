import { Button } from '@mantine/core';
import { Link } from 'wouter';
import type { Finding, Packet, Page } from '../api/client';
import { allPages } from '../packet/apply';
import { count } from '../shared/format';
import { Thumbnail } from '../shared/Thumbnail';
import classes from './Summary.module.css';
import { say, t } from '../words';

interface Props {
  packet: Packet;
  findings: readonly Finding[];
  onShow: (page: Page) => void;
  onForget: () => void;
}

/** What a read-through came to: what was checked, what was noted, what changed since, what is left. */
export function Summary({ packet, findings, onShow, onForget }: Props) {
  const pages = allPages(packet);
  const unchecked = pages.filter((page) => page.reviewed === 'no');
  const changed = pages.filter((page) => page.reviewed === 'changed');
  const noted = pages.filter((page) => page.note);
  const reviewed = pages.length - unchecked.length - changed.length;
  const next = pages.find((page) => page.reviewed !== 'yes');
  const done = reviewed === pages.length;
  return (
    <main className={classes.summary}>
      <h1>
        {done
          ? t('readthrough.everyPageIsChecked')
          : t('readthrough.ofChecked', { reviewed, pages: count(pages.length, 'page') })}
      </h1>
      <div
        className={classes.track}
        role="img"
        aria-label={t('readthrough.ofChecked', { reviewed, pages: pages.length })}
      >
        <i style={{ width: `${(100 * reviewed) / Math.max(1, pages.length)}%` }} />
      </div>
      <Group title={t('readthrough.notChecked')} packet={packet} pages={unchecked} onShow={onShow} />
      <Group
        title={t('readthrough.changedSinceTheyWereChecked')}
        packet={packet}
        pages={changed}
        onShow={onShow}
      />
      {noted.length > 0 && (
        <section>
          <h2>{count(noted.length, 'note')}</h2>
          {noted.map((page) => (
            <button key={page.id} type="button" className={classes.note} onClick={() => onShow(page)}>
              <b>{t('readthrough.page', { number: page.number })}</b> {page.note}
            </button>
          ))}
        </section>
      )}
      {findings.length > 0 && (
        <section>
          <h2>{t('readthrough.open', { findings: count(findings.length, 'finding') })}</h2>
          {findings.map((finding) => {
            const page = pages.find((p) => p.id === finding.page);
            return page ? (
              <button key={finding.key} type="button" className={classes.note} onClick={() => onShow(page)}>
                {say(finding.sentence)}
              </button>
            ) : (
              <p key={finding.key} className={classes.note}>
                {say(finding.sentence)}
              </p>
            );
          })}
        </section>
      )}
      <div className={classes.acts}>
        {next ? (
          <Button variant="filled" onClick={() => onShow(next)}>
            {t('readthrough.goOnWithPage', { number: next.number })}
          </Button>
        ) : (
          <Button variant="filled" component={Link} href={`/packets/${packet.id}/export`}>
            {t('readthrough.export')}
          </Button>
        )}
        {reviewed > 0 && <Button onClick={onForget}>{t('readthrough.beginAnew')}</Button>}
      </div>
    </main>
  );
}

interface GroupProps {
  title: string;
  packet: Packet;
  pages: Page[];
  onShow: (page: Page) => void;
}

const MOST = 12;

function Group({ title, packet, pages, onShow }: GroupProps) {
  if (pages.length === 0) return null;
  return (
    <section>
      <h2>
        {title} · {pages.length}
      </h2>
      <div className={classes.pages}>
        {pages.slice(0, MOST).map((page) => (
          <button key={page.id} type="button" className={classes.page} onClick={() => onShow(page)}>
            <Thumbnail packet={packet} page={page} width={72} height={84} />
            <span>
              <span className="hidden-text">{t('readthrough.goToPage')} </span>
              {page.number}
            </span>
          </button>
        ))}
        {pages.length > MOST && (
          <span className="soft">{t('readthrough.andMore', { pages: pages.length - MOST })}</span>
        )}
      </div>
    </section>
  );
}
