import { type Change } from '@oquel/core';
import { engage } from './small-project.js';

export const SCENE = 'pylon-ridge';
export const insert = (brake: string, bindingId = 'gust-2', index = 1): Change => ({
  op: 'insert',
  list: 'bindings',
  asset: SCENE,
  index,
  item: engage(bindingId, brake),
});
