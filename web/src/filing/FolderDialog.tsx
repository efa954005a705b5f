import { Alert, Anchor, Breadcrumbs, Modal, Select, TextInput } from '@mantine/core';
import { IconFolder } from '@tabler/icons-react';
import { useState } from 'react';
import type { FolderFile, FolderListing } from '../api/client';
import { useFolder } from '../api/filingQueries';
import { dayInWords, formatBytes } from '../shared/format';
import { t } from '../words';
import { FileLook } from './FileLook';
import classes from './FolderDialog.module.css';

interface Props {
  folders: string[];
  onClose: () => void;
}

/** Opens a PDF of a folder as a packet, after a look at its first page. */
export function FolderDialog({ folders, onClose }: Props) {
  const [folder, setFolder] = useState(folders[0] ?? '');
  const [within, setWithin] = useState<string[]>([]);
  const [chosen, setChosen] = useState<FolderFile>();
  const enter = (names: string[]) => {
    setWithin(names);
    setChosen(undefined);
  };
  return (
    <Modal opened onClose={onClose} size={880} title={t('filing.openTitle')}>
      <div className={classes.columns}>
        <div className={classes.list}>
          {folders.length > 1 && (
            <Select
              label={t('filing.folder')}
              data={folders}
              value={folder}
              onChange={(name) => {
                setFolder(name ?? folder);
                enter([]);
              }}
            />
          )}
          <Path folder={folder} within={within} onEnter={enter} />
          <Contents
            key={[folder, ...within].join('/')}
            folder={folder}
            within={within}
            chosen={chosen}
            onEnter={(name) => enter([...within, name])}
            onChoose={setChosen}
          />
        </div>
        <FileLook
          key={chosen?.name}
          folder={folder}
          path={chosen && [...within, chosen.name].join('/')}
          file={chosen}
        />
      </div>
    </Modal>
  );
}

/** Where one is in the folder, with the way back. */
function Path({
  folder,
  within,
  onEnter,
}: {
  folder: string;
  within: string[];
  onEnter: (names: string[]) => void;
}) {
  if (within.length === 0) return null;
  return (
    <nav aria-label={t('filing.whereYouAre')}>
      <Breadcrumbs separatorMargin={6} className={classes.path}>
        {[folder, ...within.slice(0, -1)].map((name, i) => (
          <Anchor
            key={i}
            component="button"
            type="button"
            c="var(--spruce-text)"
            size="sm"
            onClick={() => onEnter(within.slice(0, i))}
          >
            {name}
          </Anchor>
        ))}
        <b>{within.at(-1)}</b>
      </Breadcrumbs>
    </nav>
  );
}

interface ContentsProps {
  folder: string;
  within: string[];
  chosen?: FolderFile;
  onEnter: (name: string) => void;
  onChoose: (file: FolderFile) => void;
}

function Contents({ folder, within, ...props }: ContentsProps) {
  const { data: listing, error, isPending } = useFolder(folder, within.join('/'));
  const [searched, setSearched] = useState('');
  if (error) return <Alert color="clay">{error.message}</Alert>;
  if (isPending) return <p className="soft">{t('filing.looking', { name: within.at(-1) ?? folder })}</p>;
  return (
    <>
      <TextInput
        aria-label={t('filing.search')}
        placeholder={t('filing.search')}
        data-autofocus
        value={searched}
        onChange={(event) => setSearched(event.currentTarget.value)}
      />
      <Entries listing={listing} searched={searched.trim().toLowerCase()} {...props} />
      {listing.more && <p className="soft small">{t('filing.more')}</p>}
    </>
  );
}

interface EntriesProps extends Omit<ContentsProps, 'folder' | 'within'> {
  listing: FolderListing;
  /** In lower case. */
  searched: string;
}

function Entries({ listing, searched, chosen, onEnter, onChoose }: EntriesProps) {
  const isSearched = (name: string) => name.toLowerCase().includes(searched);
  const folders = listing.folders.filter(isSearched);
  const files = listing.files.filter(({ name }) => isSearched(name));
  if (folders.length + files.length === 0) {
    return <p className="soft">{searched ? t('filing.noneOfThatName') : t('filing.nothingHere')}</p>;
  }
  return (
    <ul className={classes.entries}>
      {folders.map((name) => (
        <li key={name}>
          <button
            type="button"
            className={classes.entry}
            aria-label={t('filing.folderWithin', { name })}
            onClick={() => onEnter(name)}
          >
            <span className={classes.name}>
              <IconFolder size={16} aria-hidden className={classes.icon} /> {name}
            </span>
          </button>
        </li>
      ))}
      {files.map((file) => (
        <li key={file.name}>
          <button
            type="button"
            className={classes.entry}
            aria-pressed={file.name === chosen?.name}
            title={file.name}
            onClick={() => onChoose(file)}
          >
            <span className={classes.name}>{file.name}</span>
            <span className={classes.facts}>{factsOf(file)}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

function factsOf(file: FolderFile): string {
  const kind = file.packet ? t('filing.isPacket') : file.isEarlier && t('filing.earlier');
  return [formatBytes(file.bytes), dayInWords(file.modified), kind].filter(Boolean).join(' · ');
}
