// Questions as text: a condition, and options behind it. The server reads them; this is what is needed to highlight, complete and edit them.

export const ATTRIBUTES = ['time', 'level', 'service', 'instance', 'logger', 'message', 'trace', 'span', 'parent', 'thread', 'sequence',
  'weight', 'held', 'failure.type', 'failure.message', 'failure.fingerprint'];
export const LEVELS = ['trace', 'debug', 'info', 'warn', 'error', 'fatal'];
export const SYMBOLS = ['=', '!=', '>', '>=', '<', '<='];
export const OPERATORS = ['in', 'between', 'starts', 'ends', 'has', 'like', 'matches', 'near', 'exists', 'missing'];
export const OPTIONS = ['--last', '--from', '--to', '--around', '--within', '--during', '--oldest'];
const KEYWORDS = new Set([...OPERATORS, 'and', 'or', 'not', 'within', 'null', 'true', 'false', ...ATTRIBUTES]);
const TOKEN = /"(?:\\.|[^"\\])*"?|--[a-z]+|[=!<>]+|[(),]|[^\s=!<>(),"]+/y;

/** Splits a text into tokens with `text`, `from`, `to` and `type`: text, option, symbol or word. */
export function tokens(text) {
  const found = [];
  let at = 0;
  while (at < text.length) {
    if (/\s/.test(text[at])) {
      at++;
      continue;
    }
    TOKEN.lastIndex = at;
    const token = TOKEN.exec(text)?.[0] || text[at];
    const type = token[0] === '"' ? 'text' : /^--[a-z]/.test(token) ? 'option' : /^[=!<>(),]/.test(token) ? 'symbol' : 'word';
    found.push({text: token, type, from: at, to: at + token.length});
    at += token.length;
  }
  return found;
}

/** Splits a question into its condition and its options. */
export function split(question) {
  const first = tokens(question).find(token => token.type === 'option');
  return first
    ? {condition: question.slice(0, first.from).trim(), options: question.slice(first.from).trim()}
    : {condition: question.trim(), options: ''};
}

export function join(condition, options) {
  return [condition, options].filter(part => part).join(' ');
}

/** Returns the conditions that are combined by `and` at the outermost level. */
export function parts(condition) {
  const found = [];
  let depth = 0;
  let from = 0;
  let between = false;
  for (const token of tokens(condition)) {
    const word = token.type === 'word' ? token.text.toLowerCase() : token.text;
    depth += token.type === 'symbol' ? (word === '(') - (word === ')') : 0;
    if (depth === 0 && word === 'or') {
      return [condition.trim()];
    }
    if (depth === 0 && word === 'and' && !between) {
      found.push(condition.slice(from, token.from).trim());
      from = token.to;
    }
    between = word === 'between' ? true : word === 'and' ? false : between;
  }
  found.push(condition.slice(from).trim());
  return found.filter(part => part);
}

function isPlain(text) {
  return /^([A-Za-z]|\d+\.\d+\.\d)[A-Za-z0-9_.:/@-]*$/.test(text) && !KEYWORDS.has(text.toLowerCase());
}

/** Numbers, durations, and times. */
const UNQUOTED = /^(-?\d{1,15}(\.\d{1,15})?|\d+(\.\d+)?(ns|us|ms|s|m|h|d|w)|\d{4}-\d\d-\d\dT[\d:.]+Z)$/;

/** A value as a literal of the language. Times and durations are not quoted: a quoted one is a text. */
export function literal(value) {
  const isNumber = typeof value === 'number' || typeof value === 'boolean';
  if (isNumber || isPlain(String(value)) || UNQUOTED.test(value)) {
    return String(value);
  }
  if (/^PT(?:\d+H)?(?:\d+M)?(?:\d+(?:\.\d{1,9})?S)?$/.test(value) && value !== 'PT') {
    return durationLiteral(value);
  }
  return `"${String(value).replace(/["\\]/g, '\\$&')}"`;
}

function durationLiteral(value) {
  const [, hours = 0, minutes = 0, seconds = 0, fraction = ''] = /^PT(?:(\d+)H)?(?:(\d+)M)?(?:(\d+)(?:\.(\d+))?S)?$/.exec(value);
  const nanos = (BigInt(hours) * 3600n + BigInt(minutes) * 60n + BigInt(seconds)) * 1_000_000_000n + BigInt(fraction.padEnd(9, '0'));
  const [unit, size] = [['s', 1_000_000_000n], ['ms', 1_000_000n], ['us', 1000n], ['ns', 1n]].find(each => nanos % each[1] === 0n);
  return `${nanos / size}${unit}`;
}

export function field(name) {
  return OPERATORS.includes(name.toLowerCase()) || ['and', 'or', 'not'].includes(name.toLowerCase()) ? `fields.${name}` : name;
}

/** The condition that a value is equal; null for a missing one. */
export function equal(name, value) {
  return value === null || value === undefined ? `${field(name)} missing` : `${field(name)} = ${literal(value)}`;
}

/** Adds a condition to the question; an opposite one is replaced. */
export function withCondition(question, added) {
  const {condition, options} = split(question);
  const opposite = added.startsWith('not ') ? added.slice(4) : `not ${added}`;
  const kept = parts(condition).filter(part => part !== added && part !== opposite);
  return join([...kept.map(guarded), added].join(' and '), options);
}

/** A condition that can be combined with others by `and`. */
export function guarded(part) {
  return tokens(part).some(token => token.type === 'word' && token.text.toLowerCase() === 'or') && !isClosed(part) ? `(${part})` : part;
}

function isClosed(part) {
  if (!part.startsWith('(')) {
    return false;
  }
  let depth = 0;
  for (const token of tokens(part)) {
    depth += token.type === 'symbol' ? (token.text === '(') - (token.text === ')') : 0;
    if (depth === 0) {
      return token.to === part.length;
    }
  }
  return false;
}

/** Replaces the options for the window by others; the order is kept. */
export function withWindow(question, window) {
  const {condition, options} = split(question);
  const order = tokens(options).some(token => token.text === '--oldest') ? '--oldest' : '';
  return join(condition, [window, order].filter(part => part).join(' '));
}

export function withOrder(question, order) {
  const {condition, options} = split(question);
  const others = options.replace(/\s*--oldest\b/, '').trim();
  return join(condition, order === 'oldest' ? join(others, '--oldest') : others);
}

/** The values of an event by name, groups with dots; attributes first. */
export function values(event) {
  const found = [];
  for (const name of ['time', 'level', 'service', 'instance', 'logger', 'message', 'thread', 'sequence', 'trace', 'span', 'parent', 'weight', 'held', 'id']) {
    if (event[name] !== undefined && event[name] !== null) {
      found.push([name, event[name]]);
    }
  }
  flatten(event.fields || {}, '', found);
  return found;
}

function flatten(group, prefix, to) {
  for (const [name, value] of Object.entries(group)) {
    if (value !== null && typeof value === 'object' && !Array.isArray(value)) {
      flatten(value, `${prefix}${name}.`, to);
    } else {
      to.push([prefix + name, value]);
    }
  }
}

/** The value of a name in an event; undefined if it has none. */
export function valueOf(event, name) {
  if (name === 'source') {
    return event.instance ?? event.service ?? '';
  }
  if (name in event && name !== 'fields') {
    return event[name];
  }
  if (name.startsWith('failure.')) {
    return name === 'failure.fingerprint' ? event.fingerprint : event.failure?.[name.slice(8)];
  }
  let value = event.fields;
  if (value && name in value) {
    return value[name];
  }
  for (const part of name.split('.')) {
    value = value?.[part];
  }
  return value;
}

/** A condition for this event. */
export function conditionOf(event) {
  const found = [`time = ${literal(event.time)}`];
  for (const name of ['instance', 'service', 'sequence', 'thread']) {
    if (event[name] !== undefined) {
      found.push(equal(name, event[name]));
    }
  }
  if (event.sequence === undefined && event.message) {
    found.push(equal('message', event.message));
  }
  return found.join(' and ');
}
