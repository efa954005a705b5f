import { Suspense } from 'react';
import { Route, Switch } from 'wouter';
import { useEvents } from './api/useEvents';
import { useOutcomeMessages } from './intake/useOutcomes';
import { PacketsView } from './packets/PacketsView';
import { ConnectionLost } from './shared/ConnectionLost';
import { Header } from './shared/Header';
import { t } from './words';
import { withTexts } from './words/withTexts';

// Views are loaded when they are opened.
const BenchView = withTexts(async () => (await import('./bench/BenchView')).BenchView);
const CropView = withTexts(async () => (await import('./crop/CropView')).CropView);
const DoubtfulView = withTexts(async () => (await import('./text/DoubtfulView')).DoubtfulView);
const ExportView = withTexts(async () => (await import('./export/ExportView')).ExportView);
const FinishView = withTexts(async () => (await import('./finish/FinishView')).FinishView);
const GuideView = withTexts(async () => (await import('./guide/GuideView')).GuideView);
const PhotosView = withTexts(async () => (await import('./photos/PhotosView')).PhotosView);
const ReadThroughView = withTexts(
  async () => (await import('./readthrough/ReadThroughView')).ReadThroughView,
);
const ScanView = withTexts(async () => (await import('./scan/ScanView')).ScanView);

export function App() {
  useEvents();
  useOutcomeMessages();
  return (
    <>
      <ConnectionLost />
      <Suspense fallback={<Header />}>
        <Switch>
          <Route path="/">
            <PacketsView />
          </Route>
          <Route path="/guide">
            <GuideView />
          </Route>
          <Route path="/packets/:id">{({ id }) => <BenchView id={id} />}</Route>
          <Route path="/packets/:id/read/:page?">
            {({ id, page }) => <ReadThroughView id={id} page={page} />}
          </Route>
          <Route path="/packets/:id/photos/:page?">
            {({ id, page }) => <PhotosView id={id} page={page} />}
          </Route>
          <Route path="/packets/:id/crop">{({ id }) => <CropView id={id} />}</Route>
          <Route path="/packets/:id/scan">{({ id }) => <ScanView id={id} />}</Route>
          <Route path="/packets/:id/finish/:page?">
            {({ id, page }) => <FinishView id={id} page={page} />}
          </Route>
          <Route path="/packets/:id/words">{({ id }) => <DoubtfulView id={id} />}</Route>
          <Route path="/packets/:id/export">{({ id }) => <ExportView id={id} />}</Route>
          <Route>
            <Header />
            <p style={{ padding: '20vh 0 0', textAlign: 'center' }}>{t('app.thereIsNoPageAt')}</p>
          </Route>
        </Switch>
      </Suspense>
    </>
  );
}
