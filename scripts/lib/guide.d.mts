export function buildGuide(to: string): Promise<void>;
export function guidePages(): Map<string, string>;
export function guideTarget(page: string, href: string): string | null;
export function anchorOf(heading: string, known?: Map<string, number>): string;
