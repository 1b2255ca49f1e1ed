import { ruleNames, ruleText } from '@oquel/core';
import { Command } from 'commander';
import { UsageError } from './paths.js';
import type { Streams } from './streams.js';

/** `oquel explain`: what a rule finds, why it matters and what to do; without a rule the list of all. */
export function explainCommand(streams: Streams): Command {
  return new Command('explain')
    .description('say what a rule finds, why it matters and what to do; without a rule, list them all')
    .argument('[rule]', 'such as relay-cycle, or relay-cycle/unbounded for one of its classes')
    .action((rule?: string) => {
      if (rule === undefined) {
        streams.out(ruleNames().join('\n') + '\n');
        return;
      }
      const { text, near } = ruleText(rule);
      if (text === null) {
        const meant = near.length > 0 ? `; did you mean ${near.join(' or ')}?` : '';
        throw new UsageError(`there is no rule ${rule}${meant}`);
      }
      streams.out(text);
    });
}
