import createClient from 'openapi-fetch';
import type { components, paths } from './schema';
import { say, t } from '../words';

type Schemas = components['schemas'];
export type Finished = components['schemas']['Finished'];
/** A text, a box or a picture that is added to a page. */
export type Mark = components['schemas']['Mark'];
export type Packet = Schemas['Packet'];
export type PacketCard = Schemas['PacketCard'];
export type Part = Schemas['Part'];
export type Page = Schemas['Page'];
export type Source = Schemas['Source'];
export type Command = Schemas['Command'];
/** The command of a verb, or the commands of several. */
export type CommandOf<Verb extends Command['do']> = Extract<Command, { do: Verb }>;
type EachKey<T> = T extends unknown ? keyof T : never;
type EachValue<T, K extends PropertyKey> = T extends Partial<Record<K, infer V>> ? V : never;
/** The fields of a command, whichever it is: those that it does not have are missing. */
export type CommandFields = { [K in EachKey<Command>]?: EachValue<Command, K> };
export type Change = Schemas['Change'];
export type Finding = Schemas['Finding'];
export type Split = Schemas['Split'];
export type Outcome = Schemas['Outcome'];
export type Export = Schemas['Export'];
export type ExportOrder = Schemas['ExportOrder'];
export type Plan = Schemas['Plan'];
export type PlannedPage = Schemas['PlannedPage'];
export type PlannedFile = Schemas['PlannedFile'];
export type Sizing = Schemas['Sizing'];
export type Hold = NonNullable<PlannedPage['hold']>;
export type EncodingParams = Pick<PlannedPage, 'way' | 'dpi' | 'quality' | 'grey'>;
export type ChangeEvent = Schemas['Event'];
export type Point = Schemas['Point'];
export type Tone = Schemas['Tone'];
export type Fold = Schemas['Fold'];
export type Box = Schemas['Box'];
export type SheetLayout = Schemas['SheetLayout'];
export type Cleaning = Schemas['Cleaning'];
export type PageContent = Schemas['PageContent'];
export type PageBreaks = Schemas['PageBreaks'];
export type Papers = Schemas['Papers'];
export type SourcePage = Schemas['SourcePage'];
export type Scanner = Schemas['Scanner'];
export type ScannerState = Schemas['ScannerState'];
export type ScanRequest = Schemas['ScanRequest'];
export type Batch = Schemas['Batch'];
export type BatchPage = Schemas['BatchPage'];
export type BatchOrder = Schemas['BatchOrder'];
export type TextStatus = Schemas['TextStatus'];
export type TextOrder = Schemas['TextOrder'];
export type Found = Schemas['Found'];
export type PageWords = Schemas['PageWords'];
export type DocumentOrder = Schemas['DocumentOrder'];
export type Heading = Schemas['Heading'];
export type Documents = Schemas['Documents'];
export type DoubtfulWord = Schemas['DoubtfulWord'];
export type DoubtfulWords = Schemas['DoubtfulWords'];
export type PageWord = Schemas['PageWord'];
export type Receiver = Schemas['Receiver'];
export type Rules = Schemas['Rules'];
export type Paper = Schemas['Paper'];
export type KnownReceiver = Schemas['Known'];
export type Requirements = Schemas['Requirements'];
export type RuleState = Schemas['RuleState'];
export type PaperState = Schemas['PaperState'];
export type Settlement = Schemas['Settlement'];
export type Verdict = Schemas['Verdict'];
export type Keeping = Schemas['Keeping'];
export type KeepOrder = Schemas['KeepOrder'];
export type Holdings = Schemas['Holdings'];
export type DeliveryLine = Schemas['DeliveryLine'];
export type Delivery = Schemas['Delivery'];
export type HandedIn = Schemas['HandedIn'];
export type HandInOrder = Schemas['Order'];
export type FolderListing = Schemas['Listing'];
export type FolderFile = Schemas['File'];
export type FileLook = Schemas['Look'];
export type Since = Schemas['Since'];
export type Origin = Schemas['Origin'];
export type WaysToHandIn = Schemas['Ways'];
type Problem = Schemas['Problem'];

export const api = createClient<paths>({ baseUrl: '/' });

/** An answer of the server that is not a success. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

type Answer<T> = { data?: T; error?: unknown; response: Response };

/** The data of an answer, or an ApiError with a sentence for the user. */
export async function data<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new ApiError(0, t('api.dorbinDoesNotAnswerCheck'));
  }
  if (answer.error !== undefined || !answer.response.ok) {
    throw new ApiError(answer.response.status, sentence(answer.error));
  }
  return answer.data as T;
}

function sentence(error: unknown): string {
  const problem = error as Problem | undefined;
  return say(problem?.message) || problem?.detail || problem?.title || t('api.somethingWentWrong');
}

/** What of a page's look a picture is made with; mirror and turn are the browser's. */
export type Look = Pick<
  Page,
  | 'source'
  | 'sourcePage'
  | 'outline'
  | 'straighten'
  | 'crop'
  | 'fit'
  | 'clean'
  | 'patches'
  | 'tone'
  | 'annotations'
>;

/** Where to find the picture of a page, at least width pixels wide, before its mirror and turn; none of a blank page. */
export function pictureUrl(page: Look, width: number): string | undefined {
  if (page.source === '') return undefined;
  return `/api/sources/${page.source}/pages/${page.sourcePage}/image?width=${Math.ceil(width)}${lookQuery(page)}`;
}

/** Where to find the picture of a source's page as it came in. */
export function sourcePictureUrl(source: string, number: number, width: number): string {
  return `/api/sources/${source}/pages/${number}/image?width=${Math.ceil(width)}`;
}

/** Where to find pages overlaid, as they would stand uncropped; another revision may look otherwise. */
export function overlayUrl(packet: Packet, pages: readonly string[], mode: 'darkest' | 'average'): string {
  return `/api/packets/${packet.id}/overlay?mode=${mode}&revision=${packet.revision}&pages=${pages.join(',')}`;
}

/** Where to find the picture of a page of a batch, before its turn. */
export function batchPictureUrl(batch: string, page: string, width: number): string {
  return `/api/batches/${batch}/pages/${page}/image?width=${Math.ceil(width)}`;
}

/** A look as the server takes it; none where nothing is done to the page. */
function lookQuery({ outline, straighten, crop, fit, clean, patches, tone, annotations }: Look): string {
  const look = {
    outline,
    straighten: straighten || undefined,
    crop,
    fit,
    clean,
    patches: patches ?? undefined,
    tone: tone.mode || tone.brightness || tone.contrast ? tone : undefined,
    annotations: annotations.fields || annotations.comments ? annotations : undefined,
  };
  const text = JSON.stringify(look);
  return text === '{}' ? '' : `&adjustments=${encodeURIComponent(text)}`;
}

/** The corners of an outline as eight numbers, as the server takes them. */
export function flatten(outline: readonly Point[]): number[] {
  return outline.flatMap(({ x, y }) => [x, y]);
}

/** Where to find a page as it would be exported by a encoding; at another revision it may look otherwise. */
export function proofUrl(
  packet: Packet,
  page: string,
  { way, dpi, quality, grey }: EncodingParams,
  width: number,
): string {
  const how = `way=${way}&dpi=${dpi ?? 0}&quality=${quality ?? 0}&grey=${grey ?? false}`;
  return `/api/packets/${packet.id}/pages/${page}/proof?${how}&width=${width}&adjustments=${packet.revision}`;
}

export function exportFileUrl(exportId: string): string {
  return `/api/exports/${exportId}/file`;
}

/** Where to find one of several files that were made, by its place from 1. */
export function exportFileInUrl(exportId: string, place: number): string {
  return `/api/exports/${exportId}/files/${place}`;
}

/** Where to find a file to be shown, not kept. */
export function shownFileUrl(exportId: string): string {
  return `${exportFileUrl(exportId)}?inline=true`;
}
