/** The keys of what is asked of the server. */
export const keys = {
  readiness: ['readiness'] as const,
  packets: ['packets'] as const,
  packet: (id: string) => ['packet', id] as const,
  findings: (packet: string) => ['findings', packet] as const,
  comparison: (packet: string, revision: number, first: string, second: string) =>
    ['comparison', packet, revision, first, second] as const,
  breaks: (packet: string, revision: number, pages: readonly string[], paper: unknown) =>
    ['breaks', packet, revision, pages, paper] as const,
  contents: (packet: string, revision: number, pages: readonly string[]) =>
    ['contents', packet, revision, pages] as const,
  finished: (packet: string, revision?: number) =>
    revision === undefined ? (['finished', packet] as const) : (['finished', packet, revision] as const),
  history: (packet: string) => ['history', packet] as const,
  plan: (packet: string, range?: string) =>
    range === undefined ? ['plan', packet] : ['plan', packet, range],
  exports: (packet: string) => ['exports', packet] as const,
  text: (packet: string) => ['text', packet] as const,
  found: (packet: string) => ['found', packet] as const,
  words: (packet: string) => ['words', packet] as const,
  doubtful: (packet: string) => ['doubtful', packet] as const,
  headings: (packet: string) => ['headings', packet] as const,
  requirements: (packet: string) => ['requirements', packet] as const,
  receivers: ['receivers'] as const,
  since: (made: string, revision: number) => ['since', made, revision] as const,
  deliveries: (packet: string) => ['deliveries', packet] as const,
  lastDeliveries: ['lastDeliveries'] as const,
  keeping: (packet: string) => ['keeping', packet] as const,
  deliveryLines: ['deliveryLines'] as const,
  waysToHandIn: ['waysToHandIn'] as const,
  folders: ['folders'] as const,
  folder: (folder: string, within: string) => ['folder', folder, within] as const,
  look: (folder: string, file: string, modified: string) => ['look', folder, file, modified] as const,
  origin: (packet: string) => ['origin', packet] as const,
  batch: (packet: string) => ['batch', packet] as const,
  scanners: ['scanners'] as const,
  scanner: (id: string) => ['scanner', id] as const,
};
