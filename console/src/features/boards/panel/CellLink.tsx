import { Link } from '@tanstack/react-router';
import type { ReactNode } from 'react';
import type { Cell } from '../api';

const LOOK = 'link-hover underline decoration-base-300 underline-offset-2';

/** One test is shown itself, several as a list. */
function testsOf(filter: string) {
  const one = filter.match(/^id eq (\d+)$/);
  return one ? { test: Number(one[1]) } : { show: 'newest' as const, filter };
}

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
  if (cell.link.of === 'test') {
    return (
      <Link
        to="/$project/tests"
        params={{ project }}
        search={testsOf(cell.link.filter)}
        className={`${LOOK} ${props.className ?? ''}`}
      >
        {props.children}
      </Link>
    );
  }
  return (
    <Link
      to="/$project/found"
      params={{ project }}
      search={{ of: cell.link.of, filter: cell.link.filter }}
      className={`${LOOK} ${props.className ?? ''}`}
    >
      {props.children}
    </Link>
  );
}
