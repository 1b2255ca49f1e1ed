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
 * The ways in which one place of a program is changed so that tests should notice: each with its offsets, what stands there
 * and what takes its place. Types, thrown errors and imports are left alone. Linear in the text.
 */
export function mutantsOf(text) {
  const ts = parser();
  const source = ts.createSourceFile('a.ts', text, ts.ScriptTarget.Latest, true);
  const mutants = [];
  const put = (node, to) => {
    const [from, end] = [node.getStart(source), node.getEnd()];
    const { line } = source.getLineAndCharacterOfPosition(from);
    mutants.push({ line: line + 1, from, end, was: text.slice(from, end), to });
  };
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return;
    if (ts.isThrowStatement(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const operator = node.operatorToken.getText(source);
      if (Object.hasOwn(OPERATORS, operator)) put(node.operatorToken, OPERATORS[operator]);
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken) {
      put(node, node.operand.getText(source));
    } else if (ts.isIfStatement(node)) {
      put(node.expression, 'true');
      put(node.expression, 'false');
    } else if (ts.isConditionalExpression(node)) {
      put(node.condition, `!(${node.condition.getText(source)})`);
    } else if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true');
    else if (ts.isNumericLiteral(node)) put(node, String(Number(node.text) + 1));
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
