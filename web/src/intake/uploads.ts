import { useSyncExternalStore } from 'react';
import type { Outcome } from '../api/client';
import type { AnnotationPolicy } from '../packet/annotations';
import { nextPlace, ONE_PART, type Place } from '../packet/place';
import { keepNames } from './lostUploads';
import { said, say, t } from '../words';
import type { Said } from '../words/say';

/** Where and how files are to be placed. */
export interface Wish {
  place: Place;
  /** Which pages of the file; all when empty. */
  pages?: string;
  /** What becomes of form fields and comments. */
  annotations?: AnnotationPolicy;
  /** Of the part that the files become. */
  title?: string;
  /** Its pages are to be shown, to choose from. */
  isToOpen?: boolean;
}

/** A file on its way to the server. */
export interface Upload {
  id: number;
  packet: string;
  name: string;
  bytes: number;
  sent: number;
  state: 'waiting' | 'sending' | 'reading';
  wish: Wish;
  /** Files that were given together share one number. */
  together: number;
}

/** Whether files are on their way to a packet. */
export const isUploading = (packet: string) => uploads.some((upload) => upload.packet === packet);

/** Told how the upload of a file ended. */
type Finished = (outcome: Outcome, upload: Upload) => void;

// Uploads outlive the views: they are kept here and not in a component. One file
// is sent at a time, so that parts come in the order the files were given.
let uploads: readonly Upload[] = [];
const files = new Map<number, File>();
const listeners = new Set<() => void>();
const finished = new Set<Finished>();
let nextId = 1;
let current: XMLHttpRequest | undefined;

function change(next: readonly Upload[]) {
  uploads = next;
  keepNames(next);
  listeners.forEach((listener) => listener());
}

function update(id: number, fields: Partial<Upload>) {
  change(uploads.map((upload) => (upload.id === id ? { ...upload, ...fields } : upload)));
}

/** Sends files to a packet, after those that are on their way already. Pages are those of each file. */
export function upload(
  packet: string,
  added: readonly File[],
  wish: Wish = { place: 'end' },
  pages: readonly string[] = [],
) {
  const together = nextId++;
  const fresh = added.map((file, i): Upload => {
    const id = nextId++;
    files.set(id, file);
    return {
      id,
      packet,
      name: file.name,
      bytes: file.size,
      sent: 0,
      state: 'waiting',
      wish: { ...wish, pages: pages[i] },
      together,
    };
  });
  change([...uploads, ...fresh]);
  sendNext();
}

const offers = new Map<string, File[]>();

/** Keeps files for a packet until its bench asks how they are to be placed. */
export function offer(packet: string, files: File[]) {
  offers.set(packet, files);
}

/** The files that were kept for a packet. They are kept until forgetOffer: a bench may be drawn several times before it is there. */
export const offerFor = (packet: string): File[] | undefined => offers.get(packet);

/** Forgets the files that were kept for a packet, as its bench asks about them. */
export function forgetOffer(packet: string) {
  offers.delete(packet);
}

/** Gives an upload up. */
export function cancelUpload(id: number) {
  const upload = uploads.find((u) => u.id === id);
  if (!upload) return;
  if (upload.state === 'waiting') remove(id);
  else current?.abort();
}

function remove(id: number) {
  files.delete(id);
  change(uploads.filter((upload) => upload.id !== id));
}

function sendNext() {
  const next = uploads.find((upload) => upload.state === 'waiting');
  if (current || !next) return;
  const file = files.get(next.id);
  if (!file) return;
  const request = new XMLHttpRequest();
  current = request;
  update(next.id, { state: 'sending' });
  request.upload.onprogress = (event) =>
    update(next.id, {
      sent: Math.min(next.bytes, event.loaded),
      state: event.loaded >= event.total ? 'reading' : 'sending',
    });
  request.onloadend = () => {
    current = undefined;
    remove(next.id);
    const outcome = outcomeOf(request, next);
    if (outcome) {
      lineUp(next, outcome);
      finished.forEach((listener) => listener(outcome, next));
    }
    sendNext();
  };
  const body = new FormData();
  body.append('place', next.wish.place === ONE_PART ? 'end' : next.wish.place);
  if (next.wish.title) body.append('title', next.wish.title);
  if (next.wish.pages) body.append('pages', next.wish.pages);
  const { fields, comments } = next.wish.annotations ?? {};
  if (fields) body.append('fields', fields);
  if (comments) body.append('comments', comments);
  body.append('files', file, file.name);
  request.open('POST', `/api/packets/${next.packet}/sources`);
  request.send(body);
}

/** Lets the files that were given with one follow it. */
function lineUp(upload: Upload, outcome: Outcome) {
  const place = nextPlace(upload.wish.place, outcome.pages);
  change(
    uploads.map((other) =>
      other.together === upload.together ? { ...other, wish: { ...other.wish, place } } : other,
    ),
  );
}

function outcomeOf(request: XMLHttpRequest, upload: Upload): Outcome | undefined {
  const refused = (words: string): Outcome => ({
    name: upload.name,
    result: 'refused',
    sentence: said(words),
  });
  if (request.readyState !== XMLHttpRequest.DONE) return undefined;
  if (request.status === 0) {
    return refused(t('intake.wasNotAddedTheConnection', { name: upload.name }));
  }
  if (request.status !== 200) {
    return refused(t('intake.wasNotAdded', { name: upload.name, detail: detail(request.responseText) }));
  }
  return (JSON.parse(request.responseText) as Outcome[])[0];
}

function detail(text: string): string {
  try {
    const { message, detail } = JSON.parse(text) as { message?: Said; detail?: string };
    return say(message) || detail || t('intake.theServerRefusedIt');
  } catch {
    return t('intake.theServerRefusedIt');
  }
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** The uploads to a packet that are not finished. */
export function useUploads(packet: string): Upload[] {
  const all = useSyncExternalStore(subscribe, () => uploads);
  return all.filter((upload) => upload.packet === packet);
}

/** Calls back when the upload of a file has ended. Returns the function that ends it. */
export function onUploadFinished(listener: Finished): () => void {
  finished.add(listener);
  return () => finished.delete(listener);
}

window.addEventListener('beforeunload', (event) => {
  if (uploads.length > 0) event.preventDefault();
});
