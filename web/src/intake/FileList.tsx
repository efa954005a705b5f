import { ActionIcon, TextInput } from '@mantine/core';
import {
  DndContext,
  PointerSensor,
  KeyboardSensor,
  closestCenter,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { IconGripVertical, IconX } from '@tabler/icons-react';
import { formatBytes } from '../shared/format';
import { LinkButton } from '../shared/LinkButton';
import { t } from '../words';
import { mayHavePages, rangeProblem, type Addition } from './additions';
import classes from './FileList.module.css';

interface Props {
  additions: readonly Addition[];
  /** Moves one to another's place. */
  onMove: (from: number, to: number) => void;
  onPages: (id: number, pages: string) => void;
  onRemove: (id: number) => void;
  /** Adds a file without placing its pages, and shows these, to choose from. */
  onChoosePages: (addition: Addition) => void;
}

/** Files that are to be added, which can be put in order, left out, and have only some pages taken of. */
export function FileList({ additions, onMove, ...acts }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const indexOf = (id: unknown) => additions.findIndex((addition) => addition.id === id);
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => over && onMove(indexOf(active.id), indexOf(over.id))}
    >
      <SortableContext items={additions.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
        <ol className={classes.files} aria-label={t('intake.filesInOrder')}>
          {additions.map((addition) => (
            <FileRow key={addition.id} addition={addition} isOnly={additions.length === 1} {...acts} />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

interface RowProps extends Omit<Props, 'additions' | 'onMove'> {
  addition: Addition;
  isOnly: boolean;
}

function FileRow({ addition, isOnly, onPages, onRemove, onChoosePages }: RowProps) {
  const { id, file, pages } = addition;
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id });
  const problem = rangeProblem(pages);
  return (
    <li
      ref={setNodeRef}
      className={classes.row}
      data-dragged={isDragging || undefined}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      {!isOnly && (
        <ActionIcon
          {...attributes}
          {...listeners}
          role={undefined}
          aria-roledescription={undefined}
          variant="subtle"
          color="gray"
          size="sm"
          className={classes.grip}
          aria-label={t('intake.moveInTheList', { name: file.name })}
        >
          <IconGripVertical size={15} />
        </ActionIcon>
      )}
      <span className={classes.name} title={file.name}>
        {file.name}
      </span>
      <span className={`soft small ${classes.size}`}>{formatBytes(file.size)}</span>
      {mayHavePages(file) ? (
        <TextInput
          className={classes.pages}
          size="xs"
          aria-label={t('intake.whichPagesOf', { name: file.name })}
          placeholder={t('intake.allPages')}
          title={t('intake.allOrRange')}
          value={pages}
          error={problem}
          onChange={(event) => onPages(id, event.currentTarget.value)}
        />
      ) : (
        <span />
      )}
      {mayHavePages(file) ? (
        <LinkButton size="xs" title={t('intake.choosePagesTitle')} onClick={() => onChoosePages(addition)}>
          {t('intake.choosePages')}
        </LinkButton>
      ) : (
        <span />
      )}
      <ActionIcon
        variant="subtle"
        color="gray"
        size="sm"
        aria-label={t('intake.leaveOut', { name: file.name })}
        onClick={() => onRemove(id)}
      >
        <IconX size={15} />
      </ActionIcon>
    </li>
  );
}
