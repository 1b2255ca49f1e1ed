import { join } from 'node:path';
import ts from 'typescript';
import { ROOT } from './root.mjs';

export const ENTRIES = ['model', 'audit', 'edit', 'rehearse', 'notation', 'export'];
/** Where the report is kept. */
export const API_REPORT = join(ROOT, 'packages/core/api.txt');

/**
 * What the core offers, by the entry that it is imported from: every declaration without its comments and private members, sorted by name. A change of it
 * is a change for whoever builds on the core. It reads what was built.
 */
export function apiReport() {
  const files = ENTRIES.map((entry) => join(ROOT, `packages/core/dist/entries/${entry}.d.ts`));
  const program = ts.createProgram(files, { module: ts.ModuleKind.NodeNext, target: ts.ScriptTarget.ES2022 });
  const checker = program.getTypeChecker();
  const printer = ts.createPrinter({ removeComments: true });
  const print = (symbol) => {
    const of = symbol.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(symbol) : symbol;
    return (of.declarations ?? []).map((node) => {
      const whole = ts.isVariableDeclaration(node) ? node.parent.parent : node;
      return printer.printNode(ts.EmitHint.Unspecified, withoutPrivate(whole), whole.getSourceFile());
    });
  };
  return ENTRIES.map((entry, i) => {
    const module = checker.getSymbolAtLocation(program.getSourceFile(files[i]));
    const texts = checker.getExportsOfModule(module).flatMap(print);
    return `# @oquel/core/${entry}\n\n${[...new Set(texts)].sort().join('\n')}\n`;
  }).join('\n');
}

/** A class as others see it. */
function withoutPrivate(node) {
  if (!ts.isClassDeclaration(node)) return node;
  const isPrivate = (m) => m.modifiers?.some(({ kind }) => kind === ts.SyntaxKind.PrivateKeyword) === true;
  const { modifiers, name, typeParameters, heritageClauses, members } = node;
  const seen = members.filter((m) => ts.isConstructorDeclaration(m) || !isPrivate(m));
  return ts.factory.updateClassDeclaration(node, modifiers, name, typeParameters, heritageClauses, seen);
}
