import { useQuery } from '@tanstack/react-query';
import { Download, FileQuestion } from 'lucide-react';
import { useState } from 'react';
import { bytes } from '../lib/format';
import { runKeys } from '../runs/keys';
import { JsonText } from '../ui/JsonText';
import { MarkdownText } from '../ui/MarkdownText';
import { OutputBlock } from '../ui/OutputBlock';
import type { Attachment } from './types';

/** How much of a text is shown in place. */
const SHOWN_BYTES = 256 * 1024;

interface Props {
  attachments: Attachment[];
  href: (attachment: Attachment) => string;
}

/** Attachments shown in place, as far as they can be; none of them can run anything. */
export function AttachmentList({ attachments, href }: Props) {
  const images = attachments.filter((one) => one.kept && one.kind === 'image');
  const others = attachments.filter((one) => !images.includes(one));
  return (
    <div className="my-1.5 space-y-1.5">
      {images.length > 0 ? (
        <ul className="flex flex-wrap gap-3" aria-label="Images">
          {images.map((image) => (
            <li key={image.id}>
              <Picture image={image} href={href(image)} />
            </li>
          ))}
        </ul>
      ) : null}
      {others.length > 0 ? (
        <ul className="space-y-1" aria-label="Attachments">
          {others.map((one) => (
            <li key={one.id}>
              <Other attachment={one} href={href(one)} />
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}

/** An image that opens in full. */
export function Picture({ image, href }: { image: Attachment; href: string }) {
  return (
    <figure className="max-w-72">
      <a href={href} target="_blank" rel="noreferrer noopener">
        <img
          src={href}
          alt={image.name}
          loading="lazy"
          className="max-h-52 min-h-8 rounded-box border border-base-300 bg-base-200 object-contain"
        />
      </a>
      <figcaption className="truncate text-sm text-quiet" title={image.name}>
        {image.name}
      </figcaption>
    </figure>
  );
}

function Other({ attachment, href }: { attachment: Attachment; href: string }) {
  if (!attachment.kept) {
    return (
      <p className="flex items-center gap-1.5 text-sm text-quiet">
        <FileQuestion size={14} aria-hidden />
        <span className="min-w-0 break-all">{attachment.name}</span>
        <span className="shrink-0">
          {attachment.bytes > 0 ? `too large (${bytes(attachment.bytes)})` : 'named, not sent'}
        </span>
      </p>
    );
  }
  if (attachment.kind === 'video') {
    return (
      <figure>
        {/* biome-ignore lint/a11y/useMediaCaption: recordings of a screen have no sound */}
        <video src={href} controls preload="metadata" className="max-h-72 rounded-box" />
        <figcaption className="text-sm text-quiet">{attachment.name}</figcaption>
      </figure>
    );
  }
  return attachment.kind === 'text' ? (
    <TextAttachment attachment={attachment} href={href} />
  ) : (
    <SaveLink attachment={attachment} href={href} />
  );
}

function SaveLink({ attachment, href }: { attachment: Attachment; href: string }) {
  return (
    <a href={href} download className="link inline-flex items-center gap-1.5 text-sm">
      <Download size={14} aria-hidden />
      <span className="break-all">{attachment.name}</span>
      <span className="text-quiet">{bytes(attachment.bytes)}</span>
    </a>
  );
}

function Text({ mediaType, text }: { mediaType: string; text: string }) {
  switch (mediaType) {
    case 'application/json':
      return <JsonText text={text} />;
    case 'text/markdown':
      return <MarkdownText text={text} />;
    default:
      return <OutputBlock text={text} />;
  }
}

function TextAttachment({ attachment, href }: { attachment: Attachment; href: string }) {
  const [open, setOpen] = useState(false);
  const content = useQuery({
    queryKey: runKeys.attachment(href),
    queryFn: async () => {
      const answer = await fetch(href, { headers: { Range: `bytes=0-${SHOWN_BYTES - 1}` } });
      if (!answer.ok) {
        throw new Error(`The portal answered ${answer.status}.`);
      }
      return answer.text();
    },
    enabled: open,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-sm">
        <span className="break-all">{attachment.name}</span>{' '}
        <span className="text-quiet">
          {attachment.mediaType}, {bytes(attachment.bytes)}
        </span>
      </summary>
      <div
        role="group"
        aria-label={attachment.name}
        tabIndex={0}
        className="mt-1 max-h-96 overflow-auto rounded-box bg-base-200 px-4 py-3"
      >
        {content.error ? <p className="text-failed">{content.error.message}</p> : null}
        {content.data === undefined ? null : (
          <Text mediaType={attachment.mediaType} text={content.data} />
        )}
      </div>
      <p className="mt-1 text-sm">
        {attachment.bytes > SHOWN_BYTES ? `The first ${bytes(SHOWN_BYTES)} are shown. ` : null}
        <a href={href} download className="link">
          Save the file
        </a>
      </p>
    </details>
  );
}
