import { Alert, Button, NumberInput, SegmentedControl } from '@mantine/core';
import { useState } from 'react';
import type { Batch, ScanRequest } from '../api/client';
import { DevicePicker } from './DevicePicker';
import { intoText, intoWords, type Into } from './into';
import { useScanSettings } from './presets';
import classes from './ScanPanel.module.css';
import { ScanSettingsFields } from './ScanSettingsFields';
import { useScanners, useScannerState } from './useScanners';
import { say, t } from '../words';

interface Props {
  batch: Batch;
  into: Into;
  onForget: () => void;
  onScan: (request: ScanRequest) => void;
  onStop: () => void;
}

/** The device, what is asked of it, and the button that starts it. */
export function ScanPanel({ batch, into, onForget, onScan, onStop }: Props) {
  const scanners = useScanners();
  const { settings, change, device: remembered, setDevice } = useScanSettings();
  const list = scanners.data ?? [];
  const device = list.find((s) => s.id === remembered) ?? list[0];
  const { data: state } = useScannerState(device?.id, batch.scanning);
  const [sheets, setSheets] = useState<number>();
  const caps = state?.capabilities;
  const hasFeeder = Boolean(caps?.feeder ?? caps?.duplex);
  const willFeed = settings.from === 'feeder' || (settings.from === 'auto' && Boolean(state?.loaded));
  const words = intoWords(batch, into);
  const scan = () => {
    if (!device) return;
    onScan({
      device: device.id,
      from: hasFeeder ? settings.from : 'glass',
      duplex: settings.duplex && Boolean(caps?.duplex),
      paper: settings.paper,
      colour: settings.colour,
      resolution: settings.resolution,
      content: settings.content,
      sheets: willFeed ? sheets : undefined,
      into: intoText(into),
    });
    setSheets(undefined);
  };
  return (
    <aside className={classes.panel} aria-label={t('scan.scanner')}>
      <DevicePicker scanners={list} device={device} onChoose={setDevice} />
      {state?.problem && (
        <Alert color="var(--clay)" p="xs">
          {say(state.problem)}
        </Alert>
      )}
      {caps && (
        <>
          <div>
            <div className={classes.label}>{t('scan.from')}</div>
            <SegmentedControl
              fullWidth
              size="xs"
              aria-label={t('scan.from')}
              value={hasFeeder ? settings.from : 'glass'}
              onChange={(from) => change({ from: from as ScanRequest['from'] })}
              data={[
                ...(hasFeeder && caps.glass ? [{ value: 'auto', label: t('scan.feederIfLoaded') }] : []),
                ...(hasFeeder ? [{ value: 'feeder', label: t('scan.feeder') }] : []),
                ...(caps.glass ? [{ value: 'glass', label: t('scan.glass') }] : []),
              ]}
            />
            <div className={classes.state}>
              {hasFeeder && (state.loaded ? t('scan.thereIsPaperInThe') : t('scan.theFeederIsEmpty'))}
            </div>
          </div>
          <ScanSettingsFields capabilities={caps} settings={settings} onChange={change} />
          {willFeed && (
            <NumberInput
              label={t('scan.sheetsPutIn')}
              description={t('scan.countedTheyTellWhenOne')}
              placeholder={t('scan.notCounted')}
              min={1}
              max={10_000}
              allowDecimal={false}
              value={sheets ?? ''}
              onChange={(value) => setSheets(typeof value === 'number' ? value : undefined)}
            />
          )}
        </>
      )}
      {words && (
        <Alert
          color="spruce"
          p="xs"
          withCloseButton
          closeButtonLabel={t('scan.scanToTheEndInstead')}
          onClose={onForget}
        >
          {words}
        </Alert>
      )}
      <div className={classes.start}>
        {batch.scanning ? (
          <Button fullWidth onClick={onStop} loaderProps={{ type: 'dots' }}>
            {t('scan.stopTheScan')}
          </Button>
        ) : (
          <Button fullWidth variant="filled" disabled={!caps} onClick={scan}>
            {scanWords(batch, into)}
          </Button>
        )}
      </div>
    </aside>
  );
}

function scanWords(batch: Batch, into: Into): string {
  if (into.kind === 'replace') return t('scan.scanItAgain');
  if (into.kind === 'after') return t('scan.scanIntoTheGapButton');
  if (into.kind === 'backs') return t('scan.scanTheBacks');
  return batch.pages.length === 0 ? t('scan.scan') : t('scan.scanMore');
}
