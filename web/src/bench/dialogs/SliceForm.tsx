import { Select } from '@mantine/core';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, data, type Packet, type PageBreaks } from '../../api/client';
import { keys } from '../../api/keys';
import { PAPERS } from '../../crop/papers';
import type { Extent } from '../../crop/cropping';
import { allPages } from '../../packet/apply';
import { DialogForm } from '../../shared/DialogForm';
import { count } from '../../shared/format';
import { t } from '../../words';
import type { FormProps } from './BenchDialogs';
import classes from './SliceForm.module.css';
import { SliceStrip } from './SliceStrip';

/** Where long pages are cut across into sheets. The places that are proposed can be moved. */
export function SliceForm({ packet, pages, onDo }: FormProps & { pages: string[] }) {
  const [name, setName] = useState(() => paperFor(packet));
  const [moved, setMoved] = useState<Record<string, number[]>>({});
  const paper = PAPERS[name];
  const { data: found } = useBreaks(packet, pages, paper);
  const byId = new Map(allPages(packet).map((page) => [page.id, page]));
  const long = (found ?? []).flatMap(({ page: id, ...found }) => {
    const page = byId.get(id);
    return page && found.breaks.length > 0 ? [{ ...found, page, breaks: moved[id] ?? found.breaks }] : [];
  });
  const sheets = long.reduce((sum, { breaks }) => sum + breaks.length + 1, 0);
  return (
    <DialogForm
      verb={sheets === 0 ? t('bench.nothingToCut') : t('bench.cutInto', { pages: count(sheets, 'page') })}
      disabled={sheets === 0}
      onSubmit={() => {
        const breaks = Object.fromEntries(long.map(({ page, breaks }) => [page.id, breaks]));
        onDo([{ do: 'slice', breaks, paper }]);
      }}
    >
      <Select
        label={t('bench.paperOfTheSheets')}
        data={Object.keys(PAPERS)}
        value={name}
        onChange={(value) => {
          if (value) setName(value);
          setMoved({});
        }}
      />
      <p className="soft small" role="status">
        {outlook(found, long.length)}
      </p>
      {long.length > 0 && (
        <div className={classes.strips}>
          {long.map(({ page, width, height, breaks }) => (
            <SliceStrip
              key={page.id}
              page={page}
              size={{ width, height }}
              breaks={breaks}
              onChange={(breaks) => setMoved({ ...moved, [page.id]: breaks })}
            />
          ))}
        </div>
      )}
    </DialogForm>
  );
}

function outlook(found: readonly PageBreaks[] | undefined, long: number): string {
  if (!found) return t('bench.lookingForPlacesToCut');
  return long === 0 ? t('bench.thereIsRoomOnOneSheet') : t('bench.dragTheLines');
}

/** The paper that the receiver asks for, or A4. */
function paperFor(packet: Packet): string {
  return packet.receiver?.rules.sizes?.find((size) => size in PAPERS) ?? 'A4';
}

function useBreaks(packet: Packet, pages: readonly string[], paper: Extent | undefined) {
  return useQuery({
    queryKey: keys.breaks(packet.id, packet.revision, pages, paper),
    enabled: paper !== undefined,
    queryFn: ({ signal }) =>
      data(
        api.POST('/api/packets/{id}/breaks', {
          params: { path: { id: packet.id } },
          body: { pages: [...pages], paper: paper ?? { width: 0, height: 0 } },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
}
