// Questions about a selection of the time map.

import {equal, field, guarded, join, literal, parts, split, withCondition, withWindow} from './conditions.js';
import {nanos, rfc, typed} from './times.js';

/**
 * A condition for rows of the time map; if one name distinguishes all rows, it is enough.
 *
 * @param rows the values by name of the selected rows; null for all rows
 * @param all those of all rows
 */
function rowsCondition(rows, all) {
  if (!rows) {
    return '';
  }
  const telling = Object.keys(rows[0]).reverse().find(name => all.every(by => by[name] !== null) && new Set(all.map(by => by[name])).size === all.length);
  if (telling) {
    return rows.length === 1 ? equal(telling, rows[0][telling]) : `${field(telling)} in (${rows.map(by => literal(by[telling])).join(', ')})`;
  }
  const each = rows.map(by => Object.entries(by).map(([name, value]) => equal(name, value)).join(' and '));
  return each.length === 1 ? each[0] : `(${each.map(condition => condition.includes(' and ') ? `(${condition})` : condition).join(' or ')})`;
}

/** The question about the selected time and rows. */
export function narrowed(question, {from, to, rows}, all) {
  const condition = rowsCondition(rows, all);
  const inTime = withWindow(question, `--from ${typed(from)} --to ${typed(to)}`);
  if (!condition) {
    return inTime;
  }
  return rows.length === 1 ? parts(condition).reduce(withCondition, inTime) : withCondition(inTime, condition);
}

/**
 * Two questions: about a selection, and about what it is compared with.
 *
 * @param kind `before`: the same rows in the time before; `rest`: the same rows at all other times; `first`: another selection
 */
export function compared(question, these, kind, first, all) {
  const {condition, options} = split(question);
  const where = rows => [condition ? guarded(condition) : '', rowsCondition(rows, all)].filter(part => part).join(' and ');
  const times = selected => `--from ${typed(selected.from)} --to ${typed(selected.to)}`;
  const about = join(where(these.rows), times(these));
  if (kind === 'first') {
    return [about, join(where(first.rows), times(first))];
  }
  if (kind === 'before') {
    const span = nanos(these.to) - nanos(these.from);
    return [about, join(where(these.rows), times({from: rfc(nanos(these.from) - span), to: these.from}))];
  }
  const rest = `not time between ${rfc(nanos(these.from))} and ${rfc(nanos(these.to) - 1n)}`;
  return [about, join([where(these.rows), rest].filter(part => part).join(' and '), options.replace('--oldest', '').trim())];
}
