import { test, expect } from '@jest/globals';
import { body } from './body.js';
body(test, expect);
