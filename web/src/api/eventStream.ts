import type { ChangeEvent } from './client';
import { untilBack } from './connection';

const NAME = 'dorbin events';

type Message = { opened: true } | { change: ChangeEvent };

interface Listener {
  /** The stream begins, or begins again: what happened before is not told. */
  onOpen: () => void;
  onChange: (event: ChangeEvent) => void;
}

/**
 * Listens to what changes on the server. All tabs of a browser share one connection, of which it has few: one tab holds
 * it and tells the others; when that tab is closed another takes over. Returns what ends the listening.
 */
export function listen(listener: Listener): () => void {
  const ended = new AbortController();
  const channel = new BroadcastChannel(NAME);
  channel.onmessage = ({ data }: MessageEvent<Message>) => take(listener, data);
  ended.signal.addEventListener('abort', () => channel.close());
  const tell = (message: Message) => {
    take(listener, message);
    channel.postMessage(message);
  };
  void holdConnection(ended.signal, tell, listener.onOpen);
  return () => ended.abort();
}

function take({ onOpen, onChange }: Listener, message: Message) {
  if ('change' in message) onChange(message.change);
  else onOpen();
}

/** Holds the connection, as soon as no other tab does, until the signal. */
async function holdConnection(signal: AbortSignal, tell: (message: Message) => void, onFollow: () => void) {
  // The lock is there for pages of this machine and for secure ones; others have a connection each.
  const locks = navigator.locks as LockManager | undefined;
  if (!locks) return connect(signal, tell);
  const held = await locks.request(NAME, { ifAvailable: true }, async (lock) => {
    if (lock && !signal.aborted) await connect(signal, tell);
    return lock !== null;
  });
  if (held || signal.aborted) return;
  onFollow();
  try {
    await locks.request(NAME, { signal }, () => connect(signal, tell));
  } catch (error) {
    if (!signal.aborted) throw error;
  }
}

/** Is connected until the signal. */
function connect(signal: AbortSignal, tell: (message: Message) => void): Promise<void> {
  return new Promise((resolve) => {
    const stream = new EventSource('/api/events');
    stream.addEventListener('open', () => tell({ opened: true }));
    // It opens again by itself; meanwhile the user is told.
    stream.addEventListener('error', () => void untilBack());
    stream.addEventListener('change', ({ data }: MessageEvent<string>) =>
      tell({ change: JSON.parse(data) as ChangeEvent }),
    );
    signal.addEventListener('abort', () => {
      stream.close();
      resolve();
    });
  });
}
