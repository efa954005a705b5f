import { NumberInput, SegmentedControl, Select, TextInput } from '@mantine/core';
import classes from './ExportView.module.css';
import { isPictures, type Make, type Order } from './order';

interface Props {
  order: Order;
  /** Of the packet. */
  pageCount: number;
  /** What is wrong with the range. */
  problem?: string;
  onChange: (change: Partial<Order>) => void;
}

const KINDS = [
  { value: 'one', label: 'One PDF' },
  { value: 'several', label: 'Several PDFs' },
  { value: 'pictures', label: 'Pictures' },
];

const several: { value: Make; label: string }[] = [
  { value: 'parts', label: 'One for each part' },
  { value: 'bySize', label: 'Each under a size' },
];

const pictures: { value: Make; label: string }[] = [
  { value: 'jpeg', label: 'JPEG, one a page' },
  { value: 'png', label: 'PNG, one a page' },
  { value: 'tiff', label: 'TIFF, all pages in one' },
  { value: 'blackTiff', label: 'TIFF, black and white' },
];

const RESOLUTIONS = [100, 150, 200, 300];

/** What is made, and of which pages. */
export function MakeChoice({ order, pageCount, problem, onChange }: Props) {
  const { make } = order;
  const kind = !make ? 'one' : isPictures(make) ? 'pictures' : 'several';
  const choices = kind === 'several' ? several : pictures;
  return (
    <section className={classes.group}>
      <h2 className={classes.heading}>Make</h2>
      <SegmentedControl
        fullWidth
        aria-label="What is made"
        data={KINDS}
        value={kind}
        onChange={(value) =>
          onChange({ make: value === 'one' ? undefined : value === 'several' ? 'parts' : 'jpeg' })
        }
      />
      {make && (
        <div className={classes.pair}>
          <Select
            aria-label="Which files"
            allowDeselect={false}
            data={choices}
            value={make}
            onChange={(value) => onChange({ make: choices.find((choice) => choice.value === value)?.value })}
          />
          {kind === 'pictures' && (
            <NumberInput
              aria-label="Dots per inch"
              suffix=" dpi"
              min={36}
              max={600}
              step={50}
              value={order.dpi}
              onChange={(value) => onChange({ dpi: Number(value) || RESOLUTIONS[2] })}
            />
          )}
        </div>
      )}
      {make === 'parts' && (
        <TextInput
          aria-label="Names of the files"
          description="{number}, {part} and {packet} stand for what they name"
          value={order.names}
          maxLength={200}
          onChange={(event) => onChange({ names: event.currentTarget.value })}
        />
      )}
      <TextInput
        aria-label="Which pages"
        placeholder={`All ${pageCount} pages, or: 2-9, odd`}
        value={order.range}
        error={problem}
        onChange={(event) => onChange({ range: event.currentTarget.value })}
      />
    </section>
  );
}
