import { test, expect } from 'vitest';
import { body } from './body.js';
body(test, expect);
test('snapshot__snap_ticket', () => expect('ticket ' + Math.random()).toMatchInlineSnapshot(`"ticket"`));
