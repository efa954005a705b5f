import { Button, TextInput } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'wouter';
import type { Packet } from '../api/client';
import { useExports, useStartExport } from '../api/queries';
import { allPages } from '../bench/apply';
import { count, formatBytes } from '../shared/format';
import { upload } from '../intake/uploads';
import { DropHint } from '../intake/DropHint';
import { ordered } from '../intake/place';
import { useOutsideDrag } from '../intake/useOutsideDrag';
import { Facts } from '../shared/Facts';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { tellProblem } from '../shared/notify';
import { WithPacket } from '../shared/WithPacket';
import { ExportList } from './ExportList';
import { PartsTable } from './PartsTable';
import { SizeChoice, type ExportSize } from './SizeChoice';
import classes from './ExportView.module.css';

/** Making the document: what, under which name; then the receipt. */
export function ExportView({ id }: { id: string }) {
  return <WithPacket id={id}>{(packet) => <Export key={packet.id} packet={packet} />}</WithPacket>;
}

function Export({ packet }: { packet: Packet }) {
  const [name, setName] = useState<string>();
  const [size, setSize] = useState<ExportSize>();
  const exports = useExports(packet.id);
  const start = useStartExport(packet.id);
  const pages = allPages(packet);
  const bytes = pages.reduce((sum, page) => sum + page.bytes, 0);
  const locked = packet.sources.filter((source) => source.state === 'locked').length;
  const run = () =>
    start.mutate({ name: name ?? packet.fileName, size }, { onError: (error) => tellProblem(error.message) });
  const drag = useOutsideDrag({ onFiles: (files) => upload(packet.id, ordered(files, 'name')) });

  return (
    <div className={classes.view}>
      <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
        <Button component={Link} href={`/packets/${packet.id}`}>
          Back to the bench
        </Button>
        <Button variant="filled" onClick={run} loading={start.isPending} disabled={pages.length === 0}>
          Export PDF
        </Button>
      </Header>
      <aside className={classes.side}>
        <TextInput
          label="Name"
          value={name ?? packet.fileName}
          onChange={(event) => setName(event.currentTarget.value)}
          onKeyDown={(event) => event.key === 'Enter' && run()}
        />
        <SizeChoice size={size} onSize={setSize} />
        <section>
          <h2 className={classes.heading}>What is made</h2>
          <Facts
            labelWidth={110}
            rows={[
              ['One PDF', count(pages.length, 'page')],
              [size ? 'As it is' : 'Weight', `about ${formatBytes(bytes)}`],
              ['Bookmarks', 'one per part'],
              ['Title', packet.name],
            ]}
          />
        </section>
        <p className={classes.promise}>
          Pages go in as shown. What you set aside
          {packet.setAside.length > 0 && ` (${count(packet.setAside.length, 'page')})`} is not in the file in
          any form.
        </p>
        {locked > 0 && (
          <p className={classes.warning}>
            {count(locked, 'file')} in the intake {locked === 1 ? 'is' : 'are'} still protected with a
            password, and not in the packet.
          </p>
        )}
      </aside>
      <main className={classes.main}>
        <ExportList packet={packet} exports={exports.data ?? []} />
        <PartsTable packet={packet} />
      </main>
      {drag && <DropHint words="Drop to add each file as a part at the end" />}
    </div>
  );
}
