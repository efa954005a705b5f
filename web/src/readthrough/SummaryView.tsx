import type { Packet } from '../api/client';
import { useFindings } from '../api/queries';
import { allPages } from '../packet/apply';
import { t } from '../words';
import { ReadingHeader } from './ReadingHeader';
import classes from './ReadThroughView.module.css';
import { Summary } from './Summary';
import { useReviewed } from './useReviewed';
import { useShow } from './useShow';

/** What is checked, and what is still to be, in place of a page. */
export function SummaryView({ packet }: { packet: Packet }) {
  const show = useShow(packet.id);
  const mark = useReviewed(packet.id);
  const { data: found } = useFindings(packet.id);
  const pages = allPages(packet);
  return (
    <div className={classes.view}>
      <ReadingHeader packet={packet} status={t('readthrough.summary')} />
      <Summary
        packet={packet}
        findings={found?.findings ?? []}
        onShow={(page) => show(page.id)}
        onForget={() => {
          mark(pages, false);
          if (pages[0]) show(pages[0].id);
        }}
      />
    </div>
  );
}
