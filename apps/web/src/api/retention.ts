import { api, settle, soon } from './client.js';
import type { components } from './schema.js';

export type ProjectAmounts = components['schemas']['ProjectAmountsDto'];
/** Days after which something goes; what is not named stays. */
export type Ages = components['schemas']['AgesDto'];

export function amountsOlder(query: Ages): Promise<ProjectAmounts[]> {
  return settle(api.GET('/api/retention', { params: { query }, ...soon() }));
}
/** Removes it for good. No limit in time: it takes as long as there is to remove. */
export function removeOlder(body: Ages): Promise<ProjectAmounts[]> {
  return settle(api.POST('/api/retention', { body }));
}
