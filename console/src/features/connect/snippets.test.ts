import { describe, expect, it } from 'vitest';
import { isStream, snippets } from './snippets';

describe('snippets', () => {
  it('name portal, stream and token, and keep the token out of a pipeline file', () => {
    const made = snippets({
      origin: 'https://cellar.example',
      project: 'skerrow-line',
      stream: 'tides/nightly',
      token: 'vine_skerrow-line_secret',
    });
    expect(made.map((one) => one.key)).toEqual(['shell', 'yaml', 'curl']);
    for (const one of made) {
      expect(one.text).toContain('tides/nightly');
      expect(one.text).toContain('https://cellar.example');
    }
    expect(made[1]?.text).not.toContain('secret\n');
    expect(made[1]?.text).not.toContain('vine_skerrow-line_secret');
    expect(made[2]?.text).toContain('/api/v1/projects/skerrow-line/uploads');
  });

  it.each([
    ['booking-api/nightly', true],
    ['færge/a/b', true],
    ['a/b/c/d', false],
    ['a b', false],
    ['a/../b', false],
    ['', false],
    ["x'; rm -rf ~", false],
  ])('takes %j for a stream: %s', (name, taken) => {
    expect(isStream(name)).toBe(taken);
  });
});
