import {
  Button,
  Checkbox,
  FileButton,
  Group,
  Modal,
  SegmentedControl,
  Select,
  Stack,
  TextInput,
} from '@mantine/core';
import { useState } from 'react';
import { useLocation } from 'wouter';
import type { Packet } from '../api/client';
import { count, formatBytes } from '../shared/format';
import { ACCEPTED } from './accepted';
import { besidePage, ordered, places, type FileOrder, type Place } from '../packet/place';
import classes from './PlaceDialog.module.css';
import type { Wish } from './uploads';
import { t } from '../words';

/** Files that are to be placed, or a place that files are wanted for. */
export interface Placing {
  files: File[];
  place: Place;
}

interface Props {
  packet: Packet;
  placing?: Placing;
  onAdd: (files: File[], wish: Wish) => void;
  /** Asks for blank pages beside a page instead. */
  onBlank: (page: string, side: 'before' | 'after') => void;
  onClose: () => void;
}

/** Asks how files are to be placed: where, in which order, which of their pages. */
export function PlaceDialog({ placing, ...props }: Props) {
  return (
    <Modal opened={placing !== undefined} onClose={props.onClose} size={520} title={t('intake.addFiles')}>
      {placing && <PlaceForm key={placing.place} placing={placing} {...props} />}
    </Modal>
  );
}

function PlaceForm({ packet, placing, onAdd, onBlank, onClose }: Props & { placing: Placing }) {
  const [files, setFiles] = useState(placing.files);
  const [place, setPlace] = useState(placing.place);
  const [order, setOrder] = useState<FileOrder>('name');
  const [pages, setPages] = useState('');
  const [bare, setBare] = useState(false);
  const [, navigate] = useLocation();
  const shown = ordered(files, order);
  const beside = besidePage(place);
  const mayHavePages = files.some((file) => !/\.(jpe?g|png|heic|webp|bmp|gif)$/i.test(file.name));
  const add = () => onAdd(shown, { place, pages: pages.trim(), bare });
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <Stack gap="sm">
        <Select
          label={t('intake.where')}
          data={places(packet, placing.place)}
          value={place}
          allowDeselect={false}
          onChange={(value) => value && setPlace(value)}
        />
        {files.length > 1 && (
          <SegmentedControl
            aria-label={t('intake.orderOfTheFiles')}
            value={order}
            onChange={(value) => setOrder(value)}
            data={[
              { value: 'name', label: t('intake.byNaturalName') },
              { value: 'given', label: t('intake.asGiven') },
              { value: 'date', label: t('intake.byDate') },
            ]}
          />
        )}
        {shown.length > 0 && (
          <ol className={classes.files} aria-label={t('intake.filesInOrder')}>
            {shown.map((file, i) => (
              <li key={`${file.name} ${i}`}>
                <span className={classes.name} title={file.name}>
                  {file.name}
                </span>
                <span className="soft small">{formatBytes(file.size)}</span>
              </li>
            ))}
          </ol>
        )}
        <FileButton multiple accept={ACCEPTED} onChange={(more) => setFiles([...files, ...more])}>
          {(props) => (
            <Group gap="xs">
              <Button {...props}>
                {files.length === 0 ? t('intake.chooseFiles') : t('intake.moreFiles')}
              </Button>
              {files.length === 0 && (
                <Button
                  onClick={() => navigate(`/packets/${packet.id}/scan?place=${encodeURIComponent(place)}`)}
                >
                  {t('intake.scanInstead')}
                </Button>
              )}
              {files.length === 0 && beside && (
                <Button onClick={() => onBlank(beside.page, beside.side)}>
                  {t('intake.blankPageInstead')}
                </Button>
              )}
            </Group>
          )}
        </FileButton>
        {files.length > 0 && mayHavePages && (
          <>
            <TextInput
              label={t('intake.whichPages')}
              placeholder={t('intake.allOrRange')}
              description={files.length > 1 ? t('intake.ofEachFile') : undefined}
              value={pages}
              onChange={(event) => setPages(event.currentTarget.value)}
            />
            <Checkbox
              label={t('intake.leaveOutCommentsAndForm')}
              checked={bare}
              onChange={(event) => setBare(event.currentTarget.checked)}
            />
          </>
        )}
        <Group justify="flex-end">
          <Button onClick={onClose}>{t('intake.cancel')}</Button>
          <Button type="submit" variant="filled" disabled={files.length === 0} data-autofocus>
            {t('intake.addVerb', { what: files.length > 0 ? count(files.length, 'file') : '' })}
          </Button>
        </Group>
      </Stack>
    </form>
  );
}
