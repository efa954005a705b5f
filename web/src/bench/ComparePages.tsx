import { Button } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { api, data, type Finding, type Packet } from '../api/client';
import { keys } from '../api/keys';
import { useAcceptFindings } from '../api/queries';
import { allPages } from '../packet/apply';
import { PageSheet } from '../shared/PageSheet';
import { Zoomable } from '../shared/Zoomable';
import { say, t } from '../words';
import type { ActContext } from './acts/act';
import classes from './PagePreview.module.css';

interface Props {
  packet: Packet;
  bench: ActContext;
  /** That one page may be the same as another. */
  finding: Finding;
  onClose: () => void;
}

/** Two pages that may be the same, side by side, with what is different about them marked. */
export function ComparePages({ packet, bench, finding, onClose }: Props) {
  useHotkeys([['Escape', onClose]]);
  const accept = useAcceptFindings(packet.id);
  const first = allPages(packet).find(({ id }) => id === finding.other);
  const second = allPages(packet).find(({ id }) => id === finding.page);
  const { data: compared, error } = useComparison(packet, finding);
  if (!first || !second) return null;
  const setAside = () => {
    onClose();
    bench.act([{ do: 'setAside', pages: [second.id] }]);
  };
  const keepBoth = () => {
    onClose();
    accept.mutate({ keys: [finding.key], accepted: true });
  };
  return (
    <div className={classes.glass} role="dialog" aria-label={say(finding.sentence)}>
      <div className={classes.windows}>
        {[first, second].map((page) => (
          <Zoomable key={page.id} className={classes.window}>
            {(width, height, zoom) => (
              <PageSheet
                packet={packet}
                page={page}
                width={width}
                height={height}
                zoom={zoom}
                margin={18}
                marks={page === second ? compared?.differences : undefined}
              />
            )}
          </Zoomable>
        ))}
      </div>
      <div className={classes.foot}>
        <b>{t('bench.pagesBeside', { first: first.number, second: second.number })}</b>
        <span className="soft small" role="status">
          {error?.message ??
            (compared ? differencesInWords(compared.differences.length) : t('bench.comparing'))}
        </span>
        <span />
        <Button onClick={setAside}>{t('bench.setAsidePage', { number: second.number })}</Button>
        <Button onClick={keepBoth} autoFocus>
          {t('bench.keepBoth')}
        </Button>
        <Button onClick={onClose}>{t('bench.close')}</Button>
      </div>
    </div>
  );
}

function differencesInWords(count: number): string {
  return count === 0 ? t('bench.noDifferences') : t('bench.differences', { count });
}

function useComparison(packet: Packet, { other = '', page = '' }: Finding) {
  return useQuery({
    queryKey: keys.comparison(packet.id, packet.revision, other, page),
    queryFn: () =>
      data(
        api.GET('/api/packets/{id}/comparison', {
          params: { path: { id: packet.id }, query: { first: other, second: page } },
        }),
      ),
  });
}
