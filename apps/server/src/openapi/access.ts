import type { OpenAPIObject } from '@nestjs/swagger';
import type { Operation } from './operations.js';

/** Says by what a caller is known; where nobody signs in, by nothing. */
export function describeAccess({ needs, it }: Operation): void {
  if (needs.who === 'anybody') it.security = [];
  else it.security = [{ session: [] }, ...(needs.scope === null ? [] : [{ token: [needs.scope] }]), {}];
}

describeAccess.schemes = (api: OpenAPIObject): void => {
  api.components!.securitySchemes = {
    session: { type: 'apiKey', in: 'cookie', name: '__Host-oquel', description: 'Set by signing in.' },
    token: {
      type: 'http',
      scheme: 'bearer',
      description: 'A token of one project, made by a lead for what it is used for.',
    },
  };
};
