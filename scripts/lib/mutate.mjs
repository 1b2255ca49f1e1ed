import { createRequire } from 'node:module';

/** TypeScript's parser is asked for late: this module is also loaded where no package is installed yet. */
const parser = () => createRequire(import.meta.url)('typescript');

const OPERATORS = {
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '===': '!==',
  '!==': '===',
  '&&': '||',
  '||': '&&',
  '+': '-',
  '-': '+',
  '*': '/',
  '+=': '-=',
  '-=': '+=',
};

/**
 * The ways in which one place of a program is changed so that tests should notice: each with its offsets, what stands there,
 * what takes its place, and the expression or statement around it. Types, names, thrown errors and imports are left alone.
 * Linear in the text.
 */
export function mutantsOf(text) {
  const ts = parser();
  const source = ts.createSourceFile('a.ts', text, ts.ScriptTarget.Latest, true);
  const mutants = [];
  const put = (node, to, around = node) => {
    const [from, end] = [node.getStart(source), node.getEnd()];
    const { line } = source.getLineAndCharacterOfPosition(from);
    const whole = {
      from: around.getStart(source),
      end: around.getEnd(),
      isStatement: ts.isStatement(around),
    };
    mutants.push({ line: line + 1, from, end, was: text.slice(from, end), to, around: whole });
  };
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return;
    if (ts.isThrowStatement(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const operator = node.operatorToken.getText(source);
      if (Object.hasOwn(OPERATORS, operator)) put(node.operatorToken, OPERATORS[operator], node);
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken) {
      put(node, node.operand.getText(source));
    } else if (ts.isIfStatement(node)) {
      put(node.expression, 'true');
      put(node.expression, 'false');
    } else if (ts.isConditionalExpression(node)) {
      put(node.condition, `!(${node.condition.getText(source)})`);
    } else if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true');
    else if (ts.isNumericLiteral(node) && node.parent.name !== node) put(node, String(Number(node.text) + 1));
    else if (ts.isExpressionStatement(node) && ts.isCallExpression(node.expression)) put(node, ';');
    else if (ts.isContinueStatement(node)) put(node, ';');
    ts.forEachChild(node, visit);
  };
  visit(source);
  return mutants;
}

/** The text with one of its {@link mutantsOf}. */
export function mutated(text, { from, end, to }) {
  return `${text.slice(0, from)}${to}${text.slice(end)}`;
}

/**
 * The text with all the given mutants of it in place, each asleep until `oquelMutant(number)` says true: one text, transformed
 * once, serves them all. A mutant has a `number`. Linear in the text times the depth of its nesting.
 */
export function switched(text, mutants) {
  return rendered(text, 0, text.length, mutants);
}
function rendered(text, from, end, mutants) {
  const rest = [...mutants].sort(
    (a, b) => a.around.from - b.around.from || b.around.end - a.around.end || a.number - b.number,
  );
  let out = '';
  let at = from;
  while (rest.length > 0) {
    const { around } = rest[0];
    const inside = rest.filter((m) => m.around.from < around.end);
    const isSame = (m) => m.around.from === around.from && m.around.end === around.end;
    rest.splice(0, inside.length);
    const original = rendered(
      text,
      around.from,
      around.end,
      inside.filter((m) => !isSame(m)),
    );
    out += text.slice(at, around.from) + choice(text, around, inside.filter(isSame), original);
    at = around.end;
  }
  return out + text.slice(at, end);
}
function choice(text, around, mutants, original) {
  const changed = (m) => text.slice(around.from, m.from) + m.to + text.slice(m.end, around.end);
  if (around.isStatement) {
    const parts = mutants.map((m) => `if (oquelMutant(${m.number})) { ${changed(m)} } else `);
    return `{ ${parts.join('')}${original} }`;
  }
  return `(${mutants.map((m) => `oquelMutant(${m.number}) ? ${changed(m)} : `).join('')}${original})`;
}
