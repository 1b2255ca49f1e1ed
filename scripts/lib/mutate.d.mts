export interface Mutant {
  line: number;
  from: number;
  end: number;
  was: string;
  to: string;
}
export function mutantsOf(text: string): Mutant[];
export function mutated(text: string, mutant: Mutant): string;
