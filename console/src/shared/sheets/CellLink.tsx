import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { Cell } from './api';
import { placeOf } from './place';

const LOOK = 'link-hover underline decoration-base-300 underline-offset-2';

/** A number that leads to the list of what it counts; plain where there is none. */
export function CellLink(props: {
  project: string;
  cell: Cell;
  className?: string;
  children: ReactNode;
}) {
  const { project, cell } = props;
  if (cell.link === null) {
    return <span className={props.className}>{props.children}</span>;
  }
  return (
    <Link {...placeOf(project, cell.link)} className={`${LOOK} ${props.className ?? ''}`}>
      {props.children}
    </Link>
  );
}
