import {
  buildGraph,
  dotText,
  expand,
  indexProject,
  mermaidText,
  rippleDiagram,
  rippleLines,
  rippleOf,
  type Ripple,
  type RippleStart,
} from '@oquel/core';
import { Command, Option } from 'commander';
import { PROJECT_INPUT, readProjectFrom } from './input.js';
import { UsageError } from './paths.js';
import type { Streams } from './streams.js';
import { orExplain } from './too-large.js';

const FORMATS = ['text', 'mermaid', 'dot'] as const;
interface RippleFlags {
  back?: boolean;
  format: (typeof FORMATS)[number];
}

/** `oquel ripple`: what follows from an event, hop by hop, or what leads to it. */
export function rippleCommand(streams: Streams): Command {
  return new Command('ripple')
    .description('print what follows from an event, hop by hop, or what leads to an action')
    .argument('<file>', PROJECT_INPUT)
    .argument(
      '<start>',
      'scene:thing.event for one thing, Prefab.event for all copies, #channel; without a name, all events of it',
    )
    .option('--back', 'what leads there, not what follows')
    .addOption(new Option('--format <format>', 'how to print').choices(FORMATS).default('text'))
    .action((file: string, text: string, { back = false, format }: RippleFlags) => {
      const { project } = readProjectFrom(file, streams);
      const g = orExplain(() => buildGraph(expand(indexProject(project))), file);
      const ripple = rippleOf(g, { start: startOf(text), direction: back ? 'backward' : 'forward' });
      if (!ripple)
        throw new UsageError(
          `${text} names no event, action or channel of ${project.name}; expected scene:thing.event, Prefab.event or #channel`,
        );
      streams.out(printed(ripple, text, format));
    });
}

function printed(ripple: Ripple, title: string, format: RippleFlags['format']): string {
  if (format === 'mermaid') return mermaidText(rippleDiagram(ripple, title));
  if (format === 'dot') return dotText(rippleDiagram(ripple, title));
  return rippleLines(ripple)
    .map(({ depth, text }) => `${'  '.repeat(depth)}${text}\n`)
    .join('');
}

/** Reads `pylon-ridge:mast-2.onGust`, `WindMast.onGust` or `#tension`, the first two also without a name. */
function startOf(text: string): RippleStart {
  if (text.startsWith('#')) return { channel: text.slice(1) };
  const colon = text.indexOf(':');
  const dot = text.lastIndexOf('.');
  // `yard:.` is the scene itself.
  const isNamed = dot > colon + 1;
  const who = isNamed ? text.slice(0, dot) : text;
  const name = isNamed ? { name: text.slice(dot + 1) } : {};
  return colon < 0 ? { asset: who, ...name } : { at: who, ...name };
}
