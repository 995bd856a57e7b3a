import { useRouter } from '@tanstack/react-router';
import type { MouseEvent, ReactNode } from 'react';
import type { Cell, SheetLink } from './api';
import { addressOf, placeOf } from './place';

const LOOK = 'link-hover underline decoration-base-300 underline-offset-2';

/** A number that leads to the list of what it counts; plain where there is none. */
export function CellLink(props: {
  project: string;
  cell: Cell;
  className?: string;
  children: ReactNode;
}) {
  const { cell } = props;
  return cell.link === null ? (
    <span className={props.className}>{props.children}</span>
  ) : (
    <Leading {...props} link={cell.link} />
  );
}

function Leading(props: {
  project: string;
  link: SheetLink;
  className?: string;
  children: ReactNode;
}) {
  const { project, link } = props;
  const router = useRouter();
  const follow = (event: MouseEvent) => {
    // A new tab, or a new window, is the browser's own business.
    if (
      event.button === 0 &&
      !event.ctrlKey &&
      !event.metaKey &&
      !event.shiftKey &&
      !event.altKey
    ) {
      event.preventDefault();
      void router.navigate(placeOf(project, link));
    }
  };
  return (
    <a
      href={addressOf(project, link)}
      onClick={follow}
      className={`${LOOK} ${props.className ?? ''}`}
    >
      {props.children}
    </a>
  );
}
