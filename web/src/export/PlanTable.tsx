import { Menu } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import type { Hold, Plan, PlannedPage } from '../api/client';
import { aboutSize, formatBytes, pagesInWords } from '../shared/format';
import { groupedBy } from '../shared/groupedBy';
import classes from './PlanTable.module.css';
import { holdWords, readsAsWell, encodingWords, runs } from './encodingWords';
import { t } from '../words';

interface Props {
  plan: Plan;
  /** The page whose proof is shown. */
  shown?: string;
  onShow: (page: PlannedPage) => void;
  onHold: (pages: PlannedPage[], hold?: Hold) => void;
}

/** What is done with which pages, their bytes now and afterwards, and how legible they stay. */
export function PlanTable({ plan, shown, onShow, onHold }: Props) {
  const groups = groupedBy(plan.pages, groupWords);
  return (
    <table className={classes.table}>
      <thead>
        <tr>
          <th scope="col">{t('export.pages')}</th>
          <th scope="col">{t('export.whatIsDone')}</th>
          <th scope="col">{t('export.now')}</th>
          <th scope="col">{t('export.afterTitle')}</th>
          <th scope="col">{t('export.legibility')}</th>
          <th scope="col">
            <span className="hidden-text">{t('export.decide')}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {groups.map(([words, pages]) => (
          <tr key={words} data-on={pages.some((page) => page.page === shown) || undefined}>
            <td>
              <button type="button" className={classes.pages} onClick={() => onShow(worst(pages))}>
                {runs(pages.map(({ number }) => number))}
              </button>
            </td>
            <td>{words}</td>
            <td>{formatBytes(sum(pages, 'before'))}</td>
            <td>{aboutSize(sum(pages, 'after'), pages.some(isUnsettled))}</td>
            <td>{pages.every((page) => page.measured) && legibilityOf(pages)}</td>
            <td>
              <HoldMenu pages={pages} onHold={onHold} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const isUnsettled = (page: PlannedPage) => !page.measured || page.unread === true;

const legibilityOf = (pages: PlannedPage[]) =>
  pages.some((page) => page.unread) ? t('export.wordsBeingCompared') : readsAsWell(pages);

function groupWords(page: PlannedPage): string {
  if (page.unreadable) return t('export.keptAsTheyAreThey');
  if (!page.measured) return t('export.beingMeasured');
  const words = encodingWords(page);
  return page.hold ? t('export.asYouDecided', { words }) : words;
}

function worst(pages: PlannedPage[]): PlannedPage {
  return pages.reduce((least, page) => (page.kept < least.kept ? page : least));
}

const sum = (pages: PlannedPage[], of: 'before' | 'after') =>
  pages.reduce((total, page) => total + page[of], 0);

function HoldMenu({ pages, onHold }: { pages: PlannedPage[]; onHold: Props['onHold'] }) {
  const offered = (pages[0]?.holds ?? []).filter((hold) => pages.every((page) => page.holds?.includes(hold)));
  if (offered.length === 0) return null;
  return (
    <Menu position="bottom-end" withinPortal>
      <Menu.Target>
        <button
          type="button"
          className={classes.decide}
          aria-label={t('export.decideFor', { pages: pagesInWords(pages.map(({ number }) => number)) })}
        >
          <IconDots size={16} />
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        {pages.some((page) => page.hold) && (
          <Menu.Item onClick={() => onHold(pages)}>{t('export.automatic')}</Menu.Item>
        )}
        {offered.map((hold) => (
          <Menu.Item key={hold} onClick={() => onHold(pages, hold)}>
            {holdWords[hold]}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
