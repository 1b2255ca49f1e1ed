import type { Cause } from './types.js';

/** What brings an event about, in words that can follow "when": `somebody enters (Climber)`, `every 2 s`. */
export function causeText(cause: Cause): string {
  switch (cause.type) {
    case 'area-enter':
      return `somebody enters${whoText(cause.activators)}`;
    case 'area-leave':
      return `somebody leaves${whoText(cause.activators)}`;
    case 'use':
      return `somebody uses it${whoText(cause.activators)}`;
    case 'press':
      return 'it is pressed';
    case 'start':
      return 'it starts';
    case 'destroyed':
      return 'it is destroyed';
    case 'timer':
      return `every ${cause.every} s`;
    case 'change':
      return `${cause.property} changes`;
    case 'code':
      return 'the game’s code';
    case 'raised':
      return 'its own actions';
  }
}
function whoText(activators: readonly string[] | undefined): string {
  return activators ? ` (${activators.join(', ') || 'nobody'})` : '';
}
