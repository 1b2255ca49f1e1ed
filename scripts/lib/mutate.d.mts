export interface Mutant {
  line: number;
  from: number;
  end: number;
  was: string;
  to: string;
  around: { from: number; end: number; isStatement: boolean };
}
export function mutantsOf(text: string): Mutant[];
export function mutated(text: string, mutant: Mutant): string;
export function switched(text: string, mutants: readonly (Mutant & { number: number })[]): string;
