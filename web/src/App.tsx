import { lazy, Suspense } from 'react';
import { Route, Switch } from 'wouter';
import { useEvents } from './api/useEvents';
import { useOutcomeMessages } from './intake/useOutcomes';
import { PacketsView } from './packets/PacketsView';
import { ConnectionLost } from './shared/ConnectionLost';
import { Header } from './shared/Header';
import { t } from './words';

// Views are loaded when they are opened.
const BenchView = lazy(async () => ({ default: (await import('./bench/BenchView')).BenchView }));
const CropView = lazy(async () => ({ default: (await import('./crop/CropView')).CropView }));
const DoubtfulView = lazy(async () => ({ default: (await import('./text/DoubtfulView')).DoubtfulView }));
const ExportView = lazy(async () => ({ default: (await import('./export/ExportView')).ExportView }));
const FinishView = lazy(async () => ({ default: (await import('./finish/FinishView')).FinishView }));
const GuideView = lazy(async () => ({ default: (await import('./guide/GuideView')).GuideView }));
const PhotosView = lazy(async () => ({ default: (await import('./photos/PhotosView')).PhotosView }));
const ReadThroughView = lazy(async () => ({
  default: (await import('./readthrough/ReadThroughView')).ReadThroughView,
}));
const ScanView = lazy(async () => ({ default: (await import('./scan/ScanView')).ScanView }));

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
