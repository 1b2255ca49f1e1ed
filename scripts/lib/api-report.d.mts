export const ENTRIES: readonly string[];
export const API_REPORT: string;
export function apiReport(): string;
