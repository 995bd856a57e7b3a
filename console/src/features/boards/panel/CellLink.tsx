import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { Cell } from '../api';

/** A number that leads to the list of what it counts; plain where there is none. */
export function CellLink(props: {
  project: string;
  cell: Cell;
  className?: string;
  children: ReactNode;
}) {
  const { project, cell } = props;
  if (cell.link === null || cell.link.of === 'test') {
    return <span className={props.className}>{props.children}</span>;
  }
  return (
    <Link
      to="/$project/found"
      params={{ project }}
      search={{ of: cell.link.of, filter: cell.link.filter }}
      className={`link-hover underline decoration-base-300 underline-offset-2 ${props.className ?? ''}`}
    >
      {props.children}
    </Link>
  );
}
