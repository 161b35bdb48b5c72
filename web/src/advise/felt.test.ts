import { expect, it } from 'vitest';
import { howFelt } from './felt';

it('says how clearly a change is felt', () => {
  expect([0, 0.49, 0.5, 0.99, 1, 2.9, 3, 8].map(howFelt)).toEqual([
    'hardly',
    'hardly',
    'a little',
    'a little',
    'clearly',
    'clearly',
    'strongly',
    'strongly',
  ]);
});
