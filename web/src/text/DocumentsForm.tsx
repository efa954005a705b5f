import { Alert, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, data, type Command, type Documents, type Packet, type Page } from '../api/client';
import { keys } from '../api/keys';
import { allPages } from '../packet/apply';
import { DialogForm } from '../shared/DialogForm';
import { count } from '../shared/format';
import { Thumbnail } from '../shared/Thumbnail';
import { say, t } from '../words';
import classes from './DocumentsForm.module.css';

interface Props {
  packet: Packet;
  part: string;
  /** Carries commands out and closes the dialog. */
  onDo: (commands: Command[]) => void;
}

const WIDTH = 74;
const HEIGHT = 96;

/** How the pages of a part belong together, by what is written on them: shown before it is done, in one step. */
export function DocumentsForm({ packet, part, onDo }: Props) {
  const { data: found } = useDocuments(packet, part);
  const [titles, setTitles] = useState<Record<number, string>>({});
  const pages = new Map(allPages(packet).map((page) => [page.id, page]));
  if (!found) return <p className="soft">{t('text.lookingAtPages')}</p>;
  const titleOf = (i: number) => titles[i] ?? found.documents[i]?.title ?? '';
  return (
    <DialogForm
      verb={found.changes ? t('text.putInThisOrder') : t('text.inThisOrderAlready')}
      disabled={!found.changes}
      onSubmit={() => onDo(commandsOf(found, titleOf))}
    >
      {found.without.length > 0 && (
        <Alert color="amber">
          {t('text.pagesWithoutText', {
            pages: count(found.without.length, 'page'),
            count: found.without.length,
          })}
        </Alert>
      )}
      <div className={classes.documents}>
        {found.documents.map((document, i) => (
          <section key={document.pages[0]?.page} className={classes.document}>
            <div className={classes.head}>
              <TextInput
                size="xs"
                className={classes.title}
                aria-label={t('text.titleOfDocument', { number: i + 1 })}
                data-autofocus={i === 0 || undefined}
                value={titleOf(i)}
                disabled={found.documents.length === 1}
                maxLength={200}
                onChange={(event) => setTitles({ ...titles, [i]: event.currentTarget.value })}
              />
              <span className="soft small">{count(document.pages.length, 'page')}</span>
              {document.missing.length > 0 && (
                <span className={classes.missing}>
                  {t('text.missingNumbers', { numbers: document.missing.join(', ') })}
                </span>
              )}
            </div>
            <ol className={classes.pages}>
              {document.pages.map(({ page: id, turn = 0, twice, reason }) => {
                const page = pages.get(id);
                return (
                  page && (
                    <li key={id} className={classes.page} data-twice={twice || undefined} title={say(reason)}>
                      <Thumbnail packet={packet} page={turnedBy(page, turn)} width={WIDTH} height={HEIGHT} />
                      <b>{t('text.page', { number: page.number })}</b>
                      <span className={classes.reason}>
                        {twice ? t('text.thereTwice') : ''} {say(reason)}
                      </span>
                    </li>
                  )
                );
              })}
            </ol>
          </section>
        ))}
      </div>
    </DialogForm>
  );
}

function useDocuments(packet: Packet, part: string) {
  return useQuery<Documents>({
    queryKey: [...keys.text(packet.id), 'documents', packet.revision, part],
    queryFn: () =>
      data(
        api.GET('/api/packets/{id}/parts/{part}/documents', { params: { path: { id: packet.id, part } } }),
      ),
  });
}

/** A page as it would stand. */
function turnedBy(page: Page, turn: number): Page {
  const lies = turn % 180 !== 0;
  return {
    ...page,
    turn: ((page.turn + turn) % 360) as Page['turn'],
    width: lies ? page.height : page.width,
    height: lies ? page.width : page.height,
  };
}

/** Pages are turned, come in their order, and each document becomes a part. */
function commandsOf({ documents }: Documents, titleOf: (i: number) => string): Command[] {
  const all = documents.flatMap(({ pages }) => pages);
  const turns = [90, 180, 270].flatMap((by): Command[] => {
    const pages = all.filter(({ turn }) => turn === by).map(({ page }) => page);
    return pages.length > 0 ? [{ do: 'turn', pages, by }] : [];
  });
  const starts = documents.flatMap(({ pages: [first] }) => (first ? [first.page] : []));
  return [
    ...turns,
    { do: 'arrange', pages: all.map(({ page }) => page) },
    ...(documents.length > 1
      ? [
          {
            do: 'divide',
            pages: starts,
            titles: starts.map((_, i) => titleOf(i).trim() || t('text.untitled', { number: i + 1 })),
          } as const,
        ]
      : []),
  ];
}
