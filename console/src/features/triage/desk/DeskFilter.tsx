import { FilterBox } from '../../../shared/filter/FilterBox';
import type { DeskSearch } from '../model';

/** Which of the groups are shown, by anything that can be asked of them. */
export function DeskFilter(props: {
  project: string;
  filter: string;
  focused?: boolean;
  onChange: (next: Partial<DeskSearch>) => void;
}) {
  return (
    <FilterBox
      project={props.project}
      of="group"
      filter={props.filter}
      focused={props.focused ?? false}
      onChange={(filter) =>
        props.onChange({ filter: filter === '' ? undefined : filter, group: undefined })
      }
      placeholder="filter of groups, as in streams gt 1 and not (ticket pr)"
    />
  );
}
