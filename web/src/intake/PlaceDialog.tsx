import { arrayMove } from '@dnd-kit/sortable';
import { Button, FileButton, Group, Modal, SegmentedControl, Select, Stack } from '@mantine/core';
import { useState } from 'react';
import { useLocation } from 'wouter';
import type { Packet } from '../api/client';
import { count } from '../shared/format';
import { ACCEPTED } from './accepted';
import { besidePage, ONE_PART, places, type Place } from '../packet/place';
import { ANNOTATION_CHOICES } from '../packet/annotations';
import {
  additionsOf,
  inOrder,
  mayHavePages,
  rangeProblem,
  type Addition,
  type AdditionOrder,
} from './additions';
import { FileList } from './FileList';
import { upload, type Wish } from './uploads';
import { t } from '../words';

/** Files that are to be placed, or a place that files are wanted for. */
export interface Placing {
  files: File[];
  place: Place;
}

interface Props {
  packet: Packet;
  placing?: Placing;
  /** Pages are those wanted of each file. */
  onAdd: (files: File[], wish: Wish, pages: string[]) => void;
  /** Asks for blank pages beside a page instead. */
  onBlank: (page: string, side: 'before' | 'after') => void;
  onClose: () => void;
}

/** Asks how files are to be placed: where, in which order, which of their pages. */
export function PlaceDialog({ placing, ...props }: Props) {
  return (
    <Modal opened={placing !== undefined} onClose={props.onClose} size={620} title={t('intake.addFiles')}>
      {placing && <PlaceForm key={placing.place} placing={placing} {...props} />}
    </Modal>
  );
}

function PlaceForm({ packet, placing, onAdd, onBlank, onClose }: Props & { placing: Placing }) {
  const [additions, setAdditions] = useState(() => inOrder(additionsOf(placing.files), 'name'));
  const files = additions.map(({ file }) => file);
  const havePages = files.some(mayHavePages);
  // Several photographs of papers belong together more often than not.
  const [place, setPlace] = useState(
    files.length > 1 && !havePages && placing.place === 'end' ? ONE_PART : placing.place,
  );
  const [order, setOrder] = useState<AdditionOrder>('name');
  const [annotations, setAnnotations] = useState(ANNOTATION_CHOICES[0]);
  const [, navigate] = useLocation();
  const beside = besidePage(place);
  const isWrong = additions.some(({ pages }) => rangeProblem(pages));
  const title = place === ONE_PART && !havePages ? t('intake.photographs') : undefined;
  const add = () =>
    onAdd(
      files,
      { place, annotations: annotations?.policy, title },
      additions.map(({ pages }) => pages.trim()),
    );
  const sort = (by: AdditionOrder) => {
    setOrder(by);
    setAdditions(inOrder(additions, by));
  };
  const choosePages = ({ id, file }: Addition) => {
    upload(packet.id, [file], { place: 'intake', isToOpen: true });
    const others = additions.filter((addition) => addition.id !== id);
    setAdditions(others);
    if (others.length === 0) onClose();
  };
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
          data={places(packet, placing.place, files.length)}
          value={place}
          onChange={(value) => value && setPlace(value)}
        />
        {files.length > 1 && (
          <SegmentedControl
            aria-label={t('intake.orderOfTheFiles')}
            value={order}
            onChange={sort}
            data={[
              { value: 'name', label: t('intake.byNaturalName') },
              { value: 'given', label: t('intake.asGiven') },
              { value: 'date', label: t('intake.byDate') },
              { value: 'own', label: t('intake.asDragged') },
            ]}
          />
        )}
        {additions.length > 0 && (
          <FileList
            additions={additions}
            onMove={(from, to) => {
              if (from === to) return;
              setOrder('own');
              setAdditions(arrayMove(additions, from, to));
            }}
            onPages={(id, pages) => setAdditions(additions.map((a) => (a.id === id ? { ...a, pages } : a)))}
            onRemove={(id) => setAdditions(additions.filter((addition) => addition.id !== id))}
            onChoosePages={choosePages}
          />
        )}
        <FileButton
          multiple
          accept={ACCEPTED}
          onChange={(more) => setAdditions(inOrder([...additions, ...additionsOf(more)], order))}
        >
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
        {havePages && (
          <Select
            label={t('annotations.label')}
            data={ANNOTATION_CHOICES.map(({ id, name }) => ({ value: id, label: name }))}
            value={annotations?.id ?? null}
            onChange={(id) => setAnnotations(ANNOTATION_CHOICES.find((choice) => choice.id === id))}
          />
        )}
        <Group justify="flex-end">
          <Button onClick={onClose}>{t('intake.cancel')}</Button>
          <Button type="submit" variant="filled" disabled={files.length === 0 || isWrong} data-autofocus>
            {t('intake.addVerb', { what: files.length > 0 ? count(files.length, 'file') : '' })}
          </Button>
        </Group>
      </Stack>
    </form>
  );
}
