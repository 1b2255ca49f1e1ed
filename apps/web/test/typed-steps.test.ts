import { describe, expect, it } from '@jest/globals';
import { indexProject } from '@oquel/core';
import { smallProject } from '../../server/test/small-project.js';
import { readKey, readRaise } from '../src/views/rehearse/typed-steps.js';

const index = indexProject(smallProject());

describe('what is typed into a script', () => {
  it.each([
    ['', null],
    ['  ', null],
    ['east', 'east'],
    ['3', 3],
    ['-2.5', -2.5],
    ['007', '007'],
    ['true', true],
    ['"3"', '3'],
    ['two words', 'two words'],
  ])('%j is the key %j', (text, value) => {
    expect(readKey(text)).toEqual({ value });
  });
  it.each([
    ['', null, ''],
    ['mast-1.onGust', null, 'a scene, a colon, a thing, a dot and an event'],
    ['pylon-ridge:mast-1', null, 'a scene, a colon, a thing, a dot and an event'],
    ['pylon-ridge:mast-1.onGust', { at: 'pylon-ridge:mast-1', event: 'onGust' }, ''],
    [' pylon-ridge:..onGust ', { at: 'pylon-ridge:.', event: 'onGust' }, 'pylon-ridge has no event onGust'],
    [
      'pylon-ridge:mast-9.onGust',
      { at: 'pylon-ridge:mast-9', event: 'onGust' },
      'nothing is called pylon-ridge:mast-9',
    ],
    [
      'pylon-ridge:mast-1.onStill',
      { at: 'pylon-ridge:mast-1', event: 'onStill' },
      'WindMast has no event onStill',
    ],
  ])('%j raises %j', (text, raise, doubt) => {
    expect(readRaise(index, text)).toEqual({ raise, doubt });
  });
});
