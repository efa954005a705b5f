import { Route, Switch } from 'wouter';
import { useEvents } from './api/useEvents';
import { BenchView } from './bench/BenchView';
import { CropView } from './crop/CropView';
import { ExportView } from './export/ExportView';
import { useOutcomeMessages } from './intake/useOutcomes';
import { PacketsView } from './packets/PacketsView';
import { PhotosView } from './photos/PhotosView';
import { ReadThroughView } from './readthrough/ReadThroughView';
import { ScanView } from './scan/ScanView';
import { Header } from './shared/Header';
import { t } from './words';

export function App() {
  useEvents();
  useOutcomeMessages();
  return (
    <Switch>
      <Route path="/">
        <PacketsView />
      </Route>
      <Route path="/packets/:id">{({ id }) => <BenchView id={id} />}</Route>
      <Route path="/packets/:id/read/:page?">
        {({ id, page }) => <ReadThroughView id={id} page={page} />}
      </Route>
      <Route path="/packets/:id/photos/:page?">{({ id, page }) => <PhotosView id={id} page={page} />}</Route>
      <Route path="/packets/:id/crop">{({ id }) => <CropView id={id} />}</Route>
      <Route path="/packets/:id/scan">{({ id }) => <ScanView id={id} />}</Route>
      <Route path="/packets/:id/export">{({ id }) => <ExportView id={id} />}</Route>
      <Route>
        <Header />
        <p style={{ padding: '20vh 0 0', textAlign: 'center' }}>{t('app.thereIsNoPageAt')}</p>
      </Route>
    </Switch>
  );
}
