import { describe, expect, it } from '@jest/globals';
import { indexProject } from '@oquel/core';
import { smallProject } from '../../server/test/small-project.js';
import { readKey, readRaise, readTypedStep } from '../src/views/rehearse/typed-steps.js';

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

describe('a step that is typed', () => {
  const bell = (more: object): object => ({ action: more, doubt: '' });
  it.each([
    ['expect quay:gate-1 did open 1 time', { expect: { at: 'quay:gate-1', action: 'open', times: 1 } }],
    ['  pause ', { pause: true }],
    [
      'raise quay:bell-1.onRung(force = 3)',
      { raise: { at: 'quay:bell-1', event: 'onRung', payload: { force: 3 } } },
    ],
  ])('%j is what is written', (text, action) => {
    expect(readTypedStep(index, text)).toEqual(bell(action));
  });
  it('says where it cannot be read on, and takes an event alone for a raise', () => {
    expect(readTypedStep(index, 'expect quay:gate-1 did')).toEqual({
      action: null,
      doubt: expect.stringMatching(/^at character \d+: /),
    });
    const [text] = ['quay:nothing.onRung'];
    expect(readTypedStep(index, text)).toEqual({
      action: { raise: { at: 'quay:nothing', event: 'onRung' } },
      doubt: 'nothing is called quay:nothing',
    });
  });
});
