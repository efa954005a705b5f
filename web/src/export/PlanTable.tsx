import { Menu } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import type { Hold, Plan, PlannedPage } from '../api/client';
import { formatBytes, pagesInWords } from '../shared/format';
import { groupedBy } from '../shared/groupedBy';
import classes from './PlanTable.module.css';
import { holdWords, readsAsWell, encodingWords, runs } from './encodingWords';

interface Props {
  plan: Plan;
  /** The page whose proof is shown. */
  shown?: string;
  onShow: (page: PlannedPage) => void;
  onHold: (pages: PlannedPage[], hold?: Hold) => void;
}

/** What happens to which pages, what they weigh now and afterwards, and how they read. */
export function PlanTable({ plan, shown, onShow, onHold }: Props) {
  const groups = groupedBy(plan.pages, groupWords);
  return (
    <table className={classes.table}>
      <thead>
        <tr>
          <th scope="col">Pages</th>
          <th scope="col">What happens to them</th>
          <th scope="col">Now</th>
          <th scope="col">After</th>
          <th scope="col">Reads as well</th>
          <th scope="col">
            <span className="hidden-text">Decide</span>
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
            <td>
              {pages.every((page) => page.measured) ? '' : 'about '}
              {formatBytes(sum(pages, 'after'))}
            </td>
            <td>{pages.every((page) => page.measured) && readsAsWell(pages)}</td>
            <td>
              <HoldMenu pages={pages} onHold={onHold} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function groupWords(page: PlannedPage): string {
  if (page.unreadable) return 'Kept as they are: they cannot be decoded';
  if (!page.measured) return 'Being measured';
  const words = encodingWords(page);
  return page.hold ? `${words}, as you decided` : words;
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
          aria-label={`Decide for ${pagesInWords(pages.map(({ number }) => number)).toLowerCase()}`}
        >
          <IconDots size={16} />
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        {pages.some((page) => page.hold) && (
          <Menu.Item onClick={() => onHold(pages)}>Let the plan decide</Menu.Item>
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
