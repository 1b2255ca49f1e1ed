import { assetAtAddress } from '../edit/wiring.js';
import type { ProjectIndex } from '../project/index-project.js';
import type { Field, Step } from '../project/types.js';

/** The fields that an event or a channel carries and a step does not give; none where it names what is not there. */
export function missingFields(index: ProjectIndex, step: Step): Field[] {
  if ('raise' in step) {
    const { at, event, payload = {} } = step.raise;
    const asset = assetAtAddress(index, at);
    return without(asset?.events[asset.eventAt.get(event) ?? -1]?.payload, payload);
  }
  if (!('publish' in step)) return [];
  const { channel, payload = {} } = step.publish;
  return without(index.project.channels?.[index.channelAt.get(channel) ?? -1]?.payload, payload);
}
function without(fields: readonly Field[] = [], given: Readonly<Record<string, unknown>>): Field[] {
  return fields.filter((f) => f.optional !== true && !Object.hasOwn(given, f.name));
}
