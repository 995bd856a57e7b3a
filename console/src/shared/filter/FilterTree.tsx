import { useQuery } from '@tanstack/react-query';
import { Ban, Plus, X } from 'lucide-react';
import { createContext, type ReactNode, useContext, useId, useState } from 'react';
import { filterHelpQuery } from './api';
import {
  attributeOf,
  type Catalogue,
  chosenOperator,
  comparing,
  denied,
  fresh,
  group,
  isNumber,
  operatorWords,
  put,
  shown,
  type Tree,
  thingIn,
  unquoted,
  within,
  withOperator,
  withValue,
} from './tree';

interface Known {
  project: string;
  catalogue: Catalogue[];
}

const Known = createContext<Known>({ project: '', catalogue: [] });

const SAVED = ['saved', 'mine'];

/** A filter as a tree of conditions, each of which can be changed. */
export function FilterTree(props: {
  project: string;
  catalogue: Catalogue[];
  of: string;
  tree: Tree | null;
  onChange: (tree: Tree) => void;
}) {
  return (
    <Known.Provider value={{ project: props.project, catalogue: props.catalogue }}>
      <Group thing={props.of} tree={shown(props.tree)} onChange={props.onChange} />
    </Known.Provider>
  );
}

type Change = (next: Tree | undefined) => void;

/** Conditions that hold all, or of which one holds. */
function Group(props: {
  thing: string;
  tree: Tree;
  onChange: (next: Tree) => void;
  head?: ReactNode;
  tail?: ReactNode;
}) {
  const { tree, thing, onChange } = props;
  const { catalogue } = useContext(Known);
  const of = catalogue.find((one) => one.thing === thing);
  const add = (one: Tree) => onChange({ ...tree, of: [...tree.of, one] });
  return (
    <fieldset className="min-w-0">
      <div className="flex flex-wrap items-center gap-2 text-sm">
        {props.head}
        <select
          aria-label={`How the conditions on a ${thing} go together`}
          className="select select-xs w-auto"
          value={tree.kind}
          onChange={(e) => onChange({ ...tree, kind: e.target.value as 'all' | 'any' })}
        >
          <option value="all">all of these hold</option>
          <option value="any">one of these holds</option>
        </select>
        {props.tail}
        <button
          type="button"
          className="btn btn-ghost btn-xs gap-1 font-normal"
          onClick={() => add(fresh(of))}
        >
          <Plus size={13} aria-hidden /> Condition
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-xs gap-1 font-normal"
          onClick={() => add(group(tree.kind === 'all' ? 'any' : 'all', [fresh(of)]))}
        >
          <Plus size={13} aria-hidden /> Group
        </button>
      </div>
      <ul className="mt-1.5 space-y-1.5 border-l-2 border-base-300 pl-3">
        {tree.of.map((one, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a condition is known by its place alone
          <li key={at}>
            <Part thing={thing} tree={one} onChange={(next) => onChange(put(tree, at, next))} />
          </li>
        ))}
      </ul>
    </fieldset>
  );
}

/** Whatever stands in a group. */
function Part(props: { thing: string; tree: Tree; denied?: boolean; onChange: Change }) {
  const { tree, thing, onChange } = props;
  const inner = tree.of[0];
  const tools = (
    <span className="flex shrink-0 gap-0.5">
      <Tool
        label={props.denied ? 'Holds after all' : 'Must not hold'}
        pressed={props.denied === true}
        onClick={() => onChange(denied(tree))}
      >
        <Ban size={13} aria-hidden />
      </Tool>
      <Tool label="Take it out" onClick={() => onChange(undefined)}>
        <X size={13} aria-hidden />
      </Tool>
    </span>
  );
  if (tree.kind === 'not' && inner) {
    return (
      <Part
        thing={thing}
        tree={inner}
        denied
        // The button of what is denied takes the denial off.
        onChange={(next) =>
          onChange(next === undefined ? undefined : next.kind === 'not' ? next.of[0] : denied(next))
        }
      />
    );
  }
  const not = props.denied ? <span className="badge badge-sm badge-error">not</span> : null;
  if (tree.kind === 'within' && inner) {
    return (
      <Within thing={thing} tree={tree} inner={inner} head={not} tail={tools} onChange={onChange} />
    );
  }
  if (tree.kind === 'all' || tree.kind === 'any') {
    return (
      <Group
        thing={thing}
        tree={tree}
        head={not}
        tail={tools}
        // A group without conditions says nothing.
        onChange={(next) => onChange(next.of.length === 0 ? undefined : next)}
      />
    );
  }
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      {not}
      <Condition thing={thing} tree={tree} onChange={onChange} />
      {tools}
    </div>
  );
}

function Tool(props: {
  label: string;
  pressed?: boolean;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className={`btn btn-square btn-xs ${props.pressed ? 'btn-neutral' : 'btn-ghost'}`}
      aria-label={props.label}
      aria-pressed={props.pressed}
      title={props.label}
      onClick={props.onClick}
    >
      {props.children}
    </button>
  );
}

/** Conditions on something else that the thing leads to. */
function Within(props: {
  thing: string;
  tree: Tree;
  inner: Tree;
  head: ReactNode;
  tail: ReactNode;
  onChange: Change;
}) {
  const { catalogue } = useContext(Known);
  const name = props.tree.name ?? '';
  const to = thingIn(catalogue, props.thing, name);
  return (
    <Group
      thing={to ?? ''}
      tree={shown(props.inner)}
      head={
        <>
          {props.head}
          <Name thing={props.thing} name={name} within onChange={props.onChange} />
          <span className="text-quiet">of which</span>
        </>
      }
      tail={props.tail}
      onChange={(next) => props.onChange(next.of.length === 0 ? undefined : within(name, next))}
    />
  );
}

/** What is asked about. */
function Name(props: { thing: string; name: string; within?: boolean; onChange: Change }) {
  const { catalogue } = useContext(Known);
  const of = catalogue.find((one) => one.thing === props.thing);
  const attribute = attributeOf(catalogue, props.thing, props.name);
  const own = of?.attributes.find((one) => one === attribute);
  const saved = SAVED.includes(props.name.toLowerCase());
  const value = props.within
    ? `${props.name}[`
    : own
      ? own.name
      : saved
        ? props.name.toLowerCase()
        : props.name;
  const listed = props.within
    ? of?.relations.some((one) => one.name === props.name)
    : own !== undefined || saved;
  const choose = (chosen: string) => {
    if (chosen.endsWith('[')) {
      const relation = chosen.slice(0, -1);
      const to = thingIn(catalogue, props.thing, relation);
      props.onChange(within(relation, fresh(catalogue.find((one) => one.thing === to))));
      return;
    }
    const next = of?.attributes.find((one) => one.name === chosen);
    props.onChange(
      next
        ? comparing(next)
        : { kind: 'compare', of: [], name: chosen, operator: 'eq', value: '""' },
    );
  };
  return (
    <select
      aria-label={`What of the ${props.thing}`}
      className="select select-xs w-auto max-w-44"
      value={value}
      onChange={(e) => choose(e.target.value)}
    >
      {listed ? null : <option value={value}>{props.name}</option>}
      {of?.attributes.map((one) => (
        <option key={one.name} value={one.name} title={one.meaning}>
          {one.name}
        </option>
      ))}
      {of?.listed ? (
        <optgroup label="Saved filters">
          <option value="saved">saved</option>
          <option value="mine">mine</option>
        </optgroup>
      ) : null}
      {of && of.relations.length > 0 ? (
        <optgroup label="What it leads to">
          {of.relations.map((one) => (
            <option key={one.name} value={`${one.name}[`} title={one.meaning}>
              {one.name} …
            </option>
          ))}
        </optgroup>
      ) : null}
    </select>
  );
}

/** One comparison. */
function Condition(props: { thing: string; tree: Tree; onChange: Change }) {
  const { thing, tree, onChange } = props;
  const { catalogue } = useContext(Known);
  const name = tree.name ?? '';
  const attribute = attributeOf(catalogue, thing, name);
  const saved = SAVED.includes(name.toLowerCase());
  const operator = chosenOperator(tree);
  const words = operatorWords(attribute?.kind ?? 'name');
  const operators = saved
    ? ['eq', 'ne']
    : attribute
      ? [...attribute.operators, 'pr', 'none']
      : [operator];
  const known = attribute ?? {
    name,
    meaning: '',
    keyed: false,
    kind: 'name' as const,
    operators: [],
    choices: [],
    example: '""',
  };
  const dot = name.indexOf('.');
  return (
    <>
      <Name thing={thing} name={name} onChange={onChange} />
      {attribute?.keyed && dot > 0 ? (
        <Typed
          label={`Key of the ${attribute.name}`}
          thing={thing}
          asked={`${name.slice(0, dot)}.`}
          value={name.slice(dot + 1)}
          wrong={(text) => !/^[A-Za-z][A-Za-z0-9_-]*$/.test(text)}
          width="w-24"
          onChange={(key) => onChange({ ...tree, name: `${name.slice(0, dot)}.${key}` })}
        />
      ) : null}
      <select
        aria-label={`How ${name} is compared`}
        className="select select-xs w-auto"
        value={operator}
        onChange={(e) => onChange(withOperator(tree, e.target.value, known))}
      >
        {(operators.includes(operator) ? operators : [operator, ...operators]).map((one) => (
          <option key={one} value={one}>
            {saved ? (one === 'eq' ? 'fits' : 'does not fit') : (words[one] ?? one)}
          </option>
        ))}
      </select>
      {operator === 'pr' || operator === 'none' ? null : (
        <Value thing={thing} tree={tree} attribute={known} onChange={onChange} />
      )}
    </>
  );
}

function Value(props: {
  thing: string;
  tree: Tree;
  attribute: { kind: string; choices: string[]; example: string };
  onChange: Change;
}) {
  const { tree, attribute, onChange } = props;
  const value = tree.value ?? '';
  const name = tree.name ?? '';
  if (attribute.kind === 'choice' || attribute.kind === 'flag') {
    const choices =
      attribute.kind === 'flag'
        ? [
            ['true', 'yes'],
            ['false', 'no'],
          ]
        : attribute.choices.map((one) => [JSON.stringify(one), one]);
    return (
      <select
        aria-label={`Value of ${name}`}
        className="select select-xs w-auto"
        value={attribute.kind === 'choice' ? value.toLowerCase() : value}
        onChange={(e) => onChange(withValue(tree, e.target.value))}
      >
        {choices.map(([one, text]) => (
          <option key={one} value={one}>
            {text}
          </option>
        ))}
      </select>
    );
  }
  const bare = attribute.kind === 'number' || (attribute.kind === 'seconds' && isNumber(value));
  return (
    <Typed
      label={`Value of ${name}`}
      thing={props.thing}
      asked={bare || attribute.kind === 'time' ? undefined : `${name} ${tree.operator} "`}
      value={unquoted(value)}
      placeholder={unquoted(attribute.example)}
      wrong={(text) =>
        attribute.kind === 'number' ? !isNumber(text) : attribute.kind === 'time' && text === ''
      }
      width={bare ? 'w-24' : 'w-52'}
      onChange={(text) =>
        onChange(
          withValue(
            tree,
            attribute.kind === 'number' || (attribute.kind === 'seconds' && isNumber(text))
              ? text
              : JSON.stringify(text),
          ),
        )
      }
    />
  );
}

/** A field that keeps what cannot be said yet, and proposes what there is. */
function Typed(props: {
  label: string;
  thing: string;
  /** The filter up to the value, by which values are proposed. */
  asked: string | undefined;
  value: string;
  placeholder?: string;
  wrong: (text: string) => boolean;
  width: string;
  onChange: (text: string) => void;
}) {
  const { project } = useContext(Known);
  const list = useId();
  const [typed, setTyped] = useState(props.value);
  const [told, setTold] = useState(props.value);
  const [focused, setFocused] = useState(false);
  if (props.value !== told) {
    setTold(props.value);
    setTyped(props.value);
  }
  const text = `${props.asked}${typed}`;
  const help = useQuery({
    ...filterHelpQuery(project, props.thing, text, text.length),
    enabled: focused && props.asked !== undefined,
  });
  const proposals = (help.data?.proposals ?? [])
    .map((one) => unquoted(one.text.trim()))
    .map((one) => (props.asked?.endsWith('.') ? one.slice(one.indexOf('.') + 1) : one));
  const wrong = props.wrong(typed);
  return (
    <>
      <input
        className={`input input-xs ${props.width} ${wrong ? 'input-error' : ''}`}
        aria-label={props.label}
        aria-invalid={wrong}
        list={list}
        autoComplete="off"
        placeholder={props.placeholder}
        value={typed}
        onFocus={() => setFocused(true)}
        onBlur={() => setFocused(false)}
        onKeyDown={(e) => e.key === 'Enter' && e.preventDefault()}
        onChange={(e) => {
          setTyped(e.target.value);
          if (!props.wrong(e.target.value)) {
            setTold(e.target.value);
            props.onChange(e.target.value);
          }
        }}
      />
      <datalist id={list}>
        {focused ? proposals.map((one) => <option key={one} value={one} />) : null}
      </datalist>
    </>
  );
}
