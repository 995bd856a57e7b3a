// @vitest-environment jsdom

import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import type { Part, Run } from '../api';
import { partNames, spanOf } from '../model';
import { counts, part } from '../testData';
import { Lane } from './Lane';
import { PartTable } from './PartTable';

afterEach(() => {
  cleanup();
});

describe('PartTable', () => {
  it('names the file of each problem and folds the environment', () => {
    render(
      <PartTable
        project="skerrow-line"
        run={{} as Run}
        parts={[
          part({
            name: 'shard 2',
            buildUrl: 'https://ci.example/7',
            environment: { 'java.version': '17.0.15' },
            files: [
              { name: 'TEST-a.xml', format: 'junit-xml', problems: ['time “NaN” is no duration'] },
              { name: 'TEST-b.xml', format: 'junit-xml', problems: [] },
            ],
          }),
        ]}
      />,
    );
    const row = screen.getAllByRole('row')[1];
    expect(row?.textContent).toContain('2 filesTEST-a.xml: time “NaN” is no duration');
    const link = screen.getByRole('link', { name: 'shard 2' });
    expect(link.getAttribute('rel')).toContain('noopener');
    expect(screen.getByText('1 property').closest('details')?.open).toBe(false);
  });
});

describe('Lane', () => {
  it('places a part on the clock of the run', () => {
    const at = (minute: number) => `2026-11-20T09:0${minute}:00Z`;
    const parts = [
      part({ startedAt: at(0), endedAt: at(4) }),
      part({ startedAt: at(2), endedAt: at(3), counts: counts({ failed: 1 }) }),
    ];
    const { container } = render(<Lane part={parts[1] as Part} span={spanOf(parts)} />);
    const bar = container.querySelector<HTMLElement>('[style]');
    expect(bar?.style.left).toBe('50%');
    expect(bar?.style.width).toBe('25%');
    expect(bar?.className).toContain('bg-failed');
    expect(partNames([...parts, ...parts])).toBe('part 1, part 1, part 1 and 1 more');
  });
});
