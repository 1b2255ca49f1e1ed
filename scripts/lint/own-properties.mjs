import { ESLintUtils } from '@typescript-eslint/utils';

/**
 * A document's maps (arguments, overrides, payloads, ...) have names that anybody may choose, such as `constructor`. To
 * read one by brackets, or to look with `in`, finds what every object inherits; `own(map, name)` and `Object.hasOwn` do not.
 */
export const ownProperties = ESLintUtils.RuleCreator.withoutDocs({
  meta: {
    type: 'problem',
    schema: [],
    messages: {
      brackets: 'Read a map whose names come from outside by own(map, name), not by brackets.',
      within: 'Look into a map whose names come from outside by Object.hasOwn, not by `in`.',
    },
  },
  defaultOptions: [],
  create(context) {
    const services = ESLintUtils.getParserServices(context);
    const checker = services.program.getTypeChecker();
    /** Whether any text may be a name of it: a plain object with a string index, no array, no list of enum members. */
    const isMap = (node) => {
      const type = checker.getNonNullableType(services.getTypeAtLocation(node));
      const parts = type.isUnion() ? type.types : [type];
      return parts.some((t) => !checker.isArrayType(t) && t.getStringIndexType() !== undefined);
    };
    const isAssigned = ({ parent }, node) =>
      (parent.type === 'AssignmentExpression' && parent.left === node) ||
      (parent.type === 'UnaryExpression' && parent.operator === 'delete');
    return {
      MemberExpression(node) {
        if (!node.computed || node.property.type === 'Literal' || isAssigned(node, node)) return;
        if (isMap(node.object)) context.report({ node, messageId: 'brackets' });
      },
      BinaryExpression(node) {
        if (node.operator !== 'in' || node.left.type === 'Literal') return;
        context.report({ node, messageId: 'within' });
      },
    };
  },
});
