// @vitest-environment jsdom

import { describe, expect, it } from 'vitest';
import { findIn, MOST_FOUND } from './findIn';

describe('finding in a page', () => {
  const found = (html: string, text: string) => {
    const root = document.createElement('div');
    root.innerHTML = html;
    return findIn(root, text).map((range) => range.toString());
  };

  it.each([
    ['<p>The gangway, the GANGWAY</p>', 'gangway', ['gangway', 'GANGWAY']],
    // Coloured output is cut into pieces.
    ['<pre>gang<span class="x">way is</span> up</pre>', 'gangway is up', ['gangway is up']],
    // Two lines of a list are not one text.
    ['<ul><li>gang</li><li>way</li></ul>', 'gangway', []],
    ['<p><span class="sr-only">gangway</span></p>', 'gangway', []],
    ['<p>aaaa</p>', 'aa', ['aa', 'aa']],
    ['<p>İstanbul gangway</p>', 'gangway', ['gangway']],
    ['<p>gangway</p>', '', []],
  ])('%s: %s', (html, text, expected) => {
    expect(found(html, text)).toEqual(expected);
  });

  it('stops somewhere', () => {
    expect(found(`<pre>${'x '.repeat(3 * MOST_FOUND)}</pre>`, 'x')).toHaveLength(MOST_FOUND);
  });
});
