import { NumberInput, SegmentedControl, Select, TextInput } from '@mantine/core';
import classes from './ExportView.module.css';
import { isPictures, type Make, type Order } from './order';
import { t } from '../words';

interface Props {
  order: Order;
  /** Of the packet. */
  pageCount: number;
  /** What is wrong with the range. */
  problem?: string;
  onChange: (change: Partial<Order>) => void;
}

const KINDS = [
  { value: 'one', label: t('export.onePdf') },
  { value: 'several', label: t('export.severalPdfs') },
  { value: 'pictures', label: t('export.pictures') },
];

const several: { value: Make; label: string }[] = [
  { value: 'parts', label: t('export.oneForEachPart') },
  { value: 'bySize', label: t('export.eachUnderASize') },
];

const pictures: { value: Make; label: string }[] = [
  { value: 'jpeg', label: t('export.jpegOneAPage') },
  { value: 'png', label: t('export.pngOneAPage') },
  { value: 'tiff', label: t('export.tiffAllPagesInOne') },
  { value: 'blackTiff', label: t('export.tiffBlackAndWhite') },
];

const RESOLUTIONS = [100, 150, 200, 300];

/** What is made, and of which pages. */
export function MakeChoice({ order, pageCount, problem, onChange }: Props) {
  const { make } = order;
  const kind = !make ? 'one' : isPictures(make) ? 'pictures' : 'several';
  const choices = kind === 'several' ? several : pictures;
  return (
    <section className={classes.group}>
      <h2 className={classes.heading}>{t('export.make')}</h2>
      <SegmentedControl
        fullWidth
        aria-label={t('export.whatIsMade')}
        data={KINDS}
        value={kind}
        onChange={(value) =>
          onChange({ make: value === 'one' ? undefined : value === 'several' ? 'parts' : 'jpeg' })
        }
      />
      {make && (
        <Select
          aria-label={t('export.whichFiles')}
          data={choices}
          value={make}
          onChange={(value) => onChange({ make: choices.find((choice) => choice.value === value)?.value })}
        />
      )}
      {kind === 'pictures' && (
        <div className={classes.numbers}>
          <NumberInput
            label={t('export.dotsPerInch')}
            min={36}
            max={600}
            step={50}
            value={order.dpi}
            onChange={(value) => onChange({ dpi: Number(value) || RESOLUTIONS[2] })}
          />
          {make === 'jpeg' && (
            <NumberInput
              label={t('export.quality')}
              suffix=" %"
              min={30}
              max={100}
              step={5}
              value={order.quality}
              onChange={(value) => onChange({ quality: Math.min(100, Math.max(30, Number(value) || 88)) })}
            />
          )}
        </div>
      )}
      {make === 'parts' && (
        <TextInput
          aria-label={t('export.namesOfTheFiles')}
          description={t('export.numberPartAndPacketStand')}
          value={order.names}
          maxLength={200}
          onChange={(event) => onChange({ names: event.currentTarget.value })}
        />
      )}
      <TextInput
        aria-label={t('export.whichPages')}
        placeholder={t('export.allPagesOrRange', { count: pageCount })}
        value={order.range}
        error={problem}
        onChange={(event) => onChange({ range: event.currentTarget.value })}
      />
    </section>
  );
}
