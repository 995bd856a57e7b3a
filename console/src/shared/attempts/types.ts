import type { Schemas } from '../api/client';

export type Detail = Schemas['ResultDetail'];
export type Attempt = Schemas['Attempt'];
export type Failure = Schemas['Failure'];
export type Step = Schemas['Step'];
export type LogLine = Schemas['LogLine'];
export type Attachment = Schemas['Attachment'];
export type LongText = Schemas['LongText'];

/** Where the content of an attachment is. */
export function attachmentHref(project: string, run: { id: number }, attachment: { id: string }) {
  return `/api/v1/projects/${project}/runs/${run.id}/attachments/${attachment.id}`;
}
