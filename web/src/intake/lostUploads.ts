/** A file that was on its way to a packet. */
interface Sent {
  packet: string;
  name: string;
}

const KEY = 'dorbin.uploads';

let lost = read();
sessionStorage.removeItem(KEY);

function read(): Sent[] {
  try {
    return JSON.parse(sessionStorage.getItem(KEY) ?? '[]') as Sent[];
  } catch {
    return [];
  }
}

/** Keeps the names of the files that are on their way, as long as this window is open. */
export function keepNames(uploads: readonly Sent[]) {
  if (uploads.length === 0) sessionStorage.removeItem(KEY);
  else sessionStorage.setItem(KEY, JSON.stringify(uploads.map(({ packet, name }) => ({ packet, name }))));
}

/** The files that were on their way to a packet when the page was reloaded, once. */
export function takeLost(packet: string): string[] {
  const names = lost.filter((sent) => sent.packet === packet).map(({ name }) => name);
  lost = lost.filter((sent) => sent.packet !== packet);
  return names;
}
