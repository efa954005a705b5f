import createClient from 'openapi-fetch';
import type { components, paths } from './schema';

type Schemas = components['schemas'];
export type Packet = Schemas['Packet'];
export type PacketCard = Schemas['PacketCard'];
export type Part = Schemas['Part'];
export type Page = Schemas['Page'];
export type Source = Schemas['Source'];
export type Command = Schemas['Command'];
export type Outcome = Schemas['Outcome'];
export type Export = Schemas['Export'];
export type ChangeEvent = Schemas['Event'];
type Problem = Schemas['ErrorModel'];

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
    throw new ApiError(0, 'Dorbin does not answer. Check that it is still running.');
  }
  if (answer.error !== undefined || !answer.response.ok) {
    throw new ApiError(answer.response.status, sentence(answer.error));
  }
  return answer.data as T;
}

function sentence(error: unknown): string {
  const problem = error as Problem | undefined;
  return problem?.detail || problem?.title || 'Something went wrong.';
}

/** Where to find the picture of a source's page, at least width pixels wide. */
export function sourcePictureUrl(page: Page, width: number): string {
  return `/api/sources/${page.source}/pages/${page.sourcePage}/image?width=${width}`;
}

/** Where to find the picture of a page as it stands. */
export function pagePictureUrl(packet: string, page: Page, width: number): string {
  return `/api/packets/${packet}/pages/${page.id}/image?width=${width}&turn=${page.turn}`;
}

export function exportFileUrl(exportId: string): string {
  return `/api/exports/${exportId}/file`;
}
