import ts from 'typescript';

/** One small change of a source file: what stands between `start` and `end` becomes `after`. */
export interface Mutant {
  readonly kind: string;
  readonly start: number;
  readonly end: number;
  readonly line: number;
  readonly before: string;
  readonly after: string;
  /** A statement is left out instead of an expression replaced. */
  readonly statement?: boolean;
  /** What is taken where an index finds nothing: the compiler demands one at every index, and most are never reached. */
  readonly fallback?: boolean;
}

/** Differences below this are there to forgive rounding; a tenth more or less of them changes nothing. */
const slack = 1e-5;

const comparisons: Readonly<Record<string, readonly string[]>> = {
  '<': ['<=', '>='],
  '<=': ['<', '>'],
  '>': ['>=', '<='],
  '>=': ['>', '<'],
  '===': ['!=='],
  '!==': ['==='],
  '==': ['!='],
  '!=': ['=='],
};
const others: Readonly<Record<string, readonly string[]>> = { '+': ['-'], '-': ['+'], '*': ['/'], '/': ['*'], '&&': ['||'], '||': ['&&'] };
const assignments: Readonly<Record<string, string>> = { '+=': '-=', '-=': '+=', '*=': '/=', '/=': '*=' };
const calls: Readonly<Record<string, string>> = {
  min: 'max',
  max: 'min',
  floor: 'ceil',
  ceil: 'floor',
  some: 'every',
  every: 'some',
};
const severities: Readonly<Record<string, string>> = { stop: 'attention', attention: 'note', note: 'attention' };

/** The number a little further on: a whole one by one, a fraction by a tenth of itself. */
const shifted = (value: number): string => (Number.isInteger(value) ? String(value + 1) : String(value * 1.1));

/** Where a string is given as a value, and not compared or named. */
const isGiven = ({ parent }: ts.Node): boolean =>
  ts.isPropertyAssignment(parent) || ts.isConditionalExpression(parent) || ts.isReturnStatement(parent) || ts.isArrayLiteralExpression(parent);

/** In the middle of an optional chain, where brackets would change what is skipped. */
const inChain = (node: ts.Node): boolean => ts.isOptionalChain(node.parent) && 'expression' in node.parent && node.parent.expression === node;

function inTypes(node: ts.Node): boolean {
  return (
    ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node) || ts.isImportDeclaration(node) || ts.isExportDeclaration(node)
  );
}

/** `list[i] ?? 0`, where the compiler cannot know that there is always something at the index. */
const isIndexFallback = (node: ts.Node): node is ts.BinaryExpression =>
  ts.isBinaryExpression(node) && node.operatorToken.kind === ts.SyntaxKind.QuestionQuestionToken && ts.isElementAccessExpression(node.left);

/** An array literal that is a value, not the left side of an assignment. */
const isList = (node: ts.Node): node is ts.ArrayLiteralExpression =>
  ts.isArrayLiteralExpression(node) &&
  !(ts.isBinaryExpression(node.parent) && node.parent.left === node && node.parent.operatorToken.kind === ts.SyntaxKind.EqualsToken);

/**
 * Every small change that a test ought to notice: numbers shifted, comparisons moved by their edge and turned round, sums and conditions
 * inverted, severities shifted, rows of lists and statements left out.
 */
export function mutantsOf(text: string, name = 'x.ts'): Mutant[] {
  const file = ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true);
  const found: Mutant[] = [];
  const source = (node: ts.Node): string => text.slice(node.getStart(file), node.end);
  const add = (kind: string, node: ts.Node, after: string, statement = false): void => {
    const start = node.getStart(file);
    const line = file.getLineAndCharacterOfPosition(start).line + 1;
    found.push({
      kind,
      start,
      end: node.end,
      line,
      before: source(node),
      after,
      ...(statement ? { statement } : {}),
      ...(inFallback(node) ? { fallback: true } : {}),
    });
  };
  const inFallback = (node: ts.Node): boolean => isIndexFallback(node.parent) && node.parent.right === node;
  const condition = (node: ts.Expression): void => {
    if (ts.isBinaryExpression(node) && node.operatorToken.getText(file) in comparisons) return;
    add('condition', node, `!(${source(node)})`);
  };

  const visit = (node: ts.Node): void => {
    if (inTypes(node)) return;
    if (ts.isNumericLiteral(node)) {
      const value = Number(node.text);
      const name = ts.isPropertyAssignment(node.parent) && node.parent.name === node;
      if (!name && !ts.isEnumMember(node.parent) && (value === 0 || value >= slack)) add('number', node, shifted(value));
    }
    if (ts.isStringLiteral(node) && isGiven(node) && node.text in severities) add('severity', node, `'${severities[node.text] ?? ''}'`);
    if (node.kind === ts.SyntaxKind.TrueKeyword && !ts.isLiteralTypeNode(node.parent)) add('boolean', node, 'false');
    if (node.kind === ts.SyntaxKind.FalseKeyword && !ts.isLiteralTypeNode(node.parent)) add('boolean', node, 'true');
    if (ts.isBinaryExpression(node)) {
      const operator = node.operatorToken.getText(file);
      const [left, right] = [source(node.left), source(node.right)];
      for (const other of comparisons[operator] ?? []) add('comparison', node, `${left} ${other} ${right}`);
      for (const other of others[operator] ?? []) add(operator === '&&' || operator === '||' ? 'logic' : 'arithmetic', node, `(${left}) ${other} (${right})`);
      if (operator === '??' && !isIndexFallback(node)) add('absent', node, left);
      const assigned = assignments[operator];
      if (assigned) add('arithmetic', node, `${left} ${assigned} ${right}`);
    }
    if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken) add('logic', node, source(node.operand));
    if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.MinusToken) add('arithmetic', node, `+${source(node.operand)}`);
    if (ts.isIfStatement(node) || ts.isWhileStatement(node)) condition(node.expression);
    if (ts.isConditionalExpression(node)) condition(node.condition);
    if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression) && !inChain(node)) {
      const called = node.expression.name.text;
      const other = calls[called];
      if (other) {
        const from = node.expression.name.getStart(file) - node.getStart(file);
        const whole = source(node);
        add('call', node, whole.slice(0, from) + other + whole.slice(from + called.length));
      }
      if (called === 'filter' && node.arguments.length === 1) add('call', node, source(node.expression.expression));
    }
    if (isList(node) && node.elements.length > 1)
      for (const gone of node.elements) {
        const rest = node.elements.filter((element) => element !== gone).map(source);
        add('row', node, `[${rest.join(', ')}]`);
      }
    if (
      ts.isObjectLiteralExpression(node) &&
      node.properties.length > 3 &&
      ts.isVariableDeclaration(node.parent) &&
      ts.isSourceFile(node.parent.parent.parent.parent)
    )
      for (const gone of node.properties) {
        const rest = node.properties.filter((property) => property !== gone).map(source);
        add('row', node, `{ ${rest.join(', ')} }`);
      }
    if (ts.isExpressionStatement(node) && (ts.isCallExpression(node.expression) || ts.isBinaryExpression(node.expression))) add('statement', node, ';', true);
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

/** The source with every one of these changes in it, each behind a question that only the runner answers with yes: `__m(id)`. */
export function woven(text: string, mutants: readonly (Mutant & { readonly id: number })[]): string {
  const spans = new Map<string, (Mutant & { readonly id: number })[]>();
  for (const mutant of mutants) {
    const key = `${mutant.start}-${mutant.end}-${mutant.statement === true}`;
    spans.set(key, [...(spans.get(key) ?? []), mutant]);
  }
  // A statement holds its expression: it is opened first.
  const list = [...spans.values()].sort((a, b) => a[0]!.start - b[0]!.start || b[0]!.end - a[0]!.end || (a[0]!.statement ? -1 : 1));
  const print = (from: number, to: number, within: typeof list): string => {
    let out = '';
    let at = from;
    let i = 0;
    while (i < within.length) {
      const group = within[i]!;
      const { start, end, statement } = group[0]!;
      const inner: typeof list = [];
      for (i++; i < within.length && within[i]![0]!.start < end; i++) inner.push(within[i]!);
      const body = print(start, end, inner);
      out += text.slice(at, start);
      out += statement
        ? // In braces: an else behind it belongs to the condition before it.
          `{ if (!__m(${group[0]!.id})) ${body} }`
        : group.reduce((rest, mutant) => `(__m(${mutant.id}) ? (${mutant.after}) : ${rest})`, `(${body})`);
      at = end;
    }
    return out + text.slice(at, to);
  };
  return print(0, text.length, list);
}
