import type { Schemas } from '../api/client';

export type Tree = Schemas['FilterTree'];
export type Catalogue = Schemas['FilterCatalogue'];
export type Attribute = Schemas['FilterAttribute'];

type Joined = 'all' | 'any';

/** A filter as a text, with as few parentheses as say the same. */
export function write(tree: Tree): string {
  const one = bare(tree);
  const inner = one.of[0];
  switch (one.kind) {
    case 'all':
      return one.of
        .map((part) => (bare(part).kind === 'any' ? `(${write(part)})` : write(part)))
        .join(' and ');
    case 'any':
      return one.of.map(write).join(' or ');
    case 'not':
      return inner ? `not (${write(inner)})` : '';
    case 'within':
      return inner ? `${one.name}[${write(inner)}]` : '';
    case 'present':
      return `${one.name} pr`;
    default:
      return `${one.name} ${one.operator} ${one.value}`;
  }
}

/** What a group of one says is said by that one. */
function bare(tree: Tree): Tree {
  const only = tree.of.length === 1 ? tree.of[0] : undefined;
  return only && (tree.kind === 'all' || tree.kind === 'any') ? bare(only) : tree;
}

/** The tree as it is shown: the outermost is a group, which can take more. */
export function shown(tree: Tree | null): Tree {
  return tree === null
    ? group('all', [])
    : tree.kind === 'all' || tree.kind === 'any'
      ? tree
      : group('all', [tree]);
}

export function group(kind: Joined, of: Tree[]): Tree {
  return { kind, of, name: null, operator: null, value: null };
}

function leaf(name: string, operator: string, value: string): Tree {
  return { kind: 'compare', of: [], name, operator, value };
}

export const within = (name: string, of: Tree): Tree => ({
  kind: 'within',
  of: [of],
  name,
  operator: null,
  value: null,
});

export const present = (name: string): Tree => ({
  kind: 'present',
  of: [],
  name,
  operator: null,
  value: null,
});

/** The contrary; of what is denied already, the thing itself. */
export function denied(tree: Tree): Tree {
  const inner = tree.of[0];
  return tree.kind === 'not' && inner
    ? inner
    : { kind: 'not', of: [tree], name: null, operator: null, value: null };
}

/** The same with another in the place of one of its own; without it for nothing. */
export function put(tree: Tree, at: number, next: Tree | undefined): Tree {
  return {
    ...tree,
    of: tree.of.flatMap((one, i) => (i === at ? (next === undefined ? [] : [next]) : [one])),
  };
}

/** What somebody would begin with. */
export function fresh(thing: Catalogue | undefined): Tree {
  const first = thing?.attributes[0];
  return first ? comparing(first) : present('name');
}

/** A condition on an attribute that says something. */
export function comparing(attribute: Attribute): Tree {
  const name = attribute.keyed ? `${attribute.name}.key` : attribute.name;
  const value =
    attribute.kind === 'choice'
      ? JSON.stringify(attribute.choices[0] ?? '')
      : attribute.kind === 'text' || attribute.kind === 'name'
        ? '""'
        : attribute.example;
  return attribute.keyed
    ? present(name)
    : leaf(name, attribute.kind === 'time' || attribute.kind === 'number' ? 'gt' : 'eq', value);
}

/**
 * The attribute that a name means.
 *
 * @return also one of what is related, as in run.branch; nothing for a name that is not known
 */
export function attributeOf(
  catalogue: Catalogue[],
  thing: string,
  name: string,
): Attribute | undefined {
  const [first = '', rest] = split(name.toLowerCase());
  const of = catalogue.find((one) => one.thing === thing);
  const own = of?.attributes.find((one) => one.name.toLowerCase() === first);
  if (own && (rest === undefined) !== own.keyed) {
    return own;
  }
  const to = of?.relations.find((one) => one.name.toLowerCase() === first)?.to;
  return to === undefined || rest === undefined ? undefined : attributeOf(catalogue, to, rest);
}

/** The thing that brackets after a name ask of. */
export function thingIn(catalogue: Catalogue[], thing: string, name: string): string | undefined {
  const [first = '', rest] = split(name.toLowerCase());
  const to = catalogue
    .find((one) => one.thing === thing)
    ?.relations.find((one) => one.name.toLowerCase() === first)?.to;
  return to === undefined || rest === undefined ? to : thingIn(catalogue, to, rest);
}

function split(name: string): [string, string | undefined] {
  const dot = name.indexOf('.');
  return dot < 0 ? [name, undefined] : [name.slice(0, dot), name.slice(dot + 1)];
}

/** How an operator is said of something. */
export function operatorWords(kind: Attribute['kind']): Record<string, string> {
  const time = kind === 'time';
  const name = kind === 'name' || kind === 'text';
  return {
    eq: 'is',
    ne: 'is not',
    co: 'contains',
    sw: 'starts with',
    ew: 'ends with',
    gt: time ? 'after' : name ? 'comes after' : 'more than',
    ge: time ? 'from … on' : name ? 'comes from … on' : 'at least',
    lt: time ? 'before' : name ? 'comes before' : 'less than',
    le: time ? 'up to' : name ? 'comes up to' : 'at most',
    pr: 'is there',
    none: 'is not there',
  };
}

/** The operator as it is chosen: nothing in place of a value is a choice of its own. */
export function chosenOperator(tree: Tree): string {
  if (tree.kind === 'present') {
    return 'pr';
  }
  if (tree.value === 'null') {
    return tree.operator === 'ne' ? 'pr' : 'none';
  }
  return tree.operator ?? 'eq';
}

/** The same condition with another operator. */
export function withOperator(tree: Tree, operator: string, attribute: Attribute): Tree {
  const name = tree.name ?? '';
  if (operator === 'pr') {
    return present(name);
  }
  if (operator === 'none') {
    return leaf(name, 'eq', 'null');
  }
  const value =
    tree.value === null || tree.value === 'null'
      ? (comparing({ ...attribute, keyed: false }).value ?? '""')
      : tree.value;
  return leaf(name, operator, value);
}

export const withValue = (tree: Tree, value: string): Tree =>
  leaf(tree.name ?? '', tree.operator ?? 'eq', value);

/** The text inside quotes; any other value as it is. */
export function unquoted(value: string): string {
  if (!value.startsWith('"')) {
    return value;
  }
  try {
    return String(JSON.parse(value));
  } catch {
    return value;
  }
}

export const isNumber = (text: string): boolean =>
  /^-?(0|[1-9]\d*)(\.\d+)?([eE][-+]?\d{1,3})?$/.test(text);
