export interface Asked {
  name: string;
  version: string;
  licence: string;
  uses: string[];
}
export function thirdParty(): { direct: Asked[]; shipped: Map<string, string[]> };
export function thirdPartyPage(): string;
