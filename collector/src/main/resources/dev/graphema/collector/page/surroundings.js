// The events around an event, independent of the question: of the same instance, the same thread, or all sources. More are loaded on both
// sides while the event stays where it is.

import {html} from 'lit-html';
import {ask} from './api.js';
import {equal, conditionOf} from './conditions.js';
import {columnsOf, rowOf} from './event-row.js';
import {counted, length, nanos, rfc} from './times.js';

const FIRST = 25;
const MORE = 50;
const COLUMNS = columnsOf('time,level,source,message');
const REACH = 3600n * 1_000_000_000n;

const SCOPES = [['instance', 'same instance'], ['thread', 'same thread'], ['all', 'all sources']];

function scopeOf(event, scope) {
  const names = scope === 'all' ? [] : scope === 'thread' ? ['service', 'instance', 'thread'] : ['service', 'instance'];
  return names.filter(name => event[name] !== undefined).map(name => equal(name, event[name])).join(' and ');
}

/**
 * @param event the event in the middle
 * @param scope `instance`, `thread` or `all`
 * @param count how many on each side
 */
export async function surroundings(event, scope, count, actions, options) {
  const size = Math.max(FIRST, count);
  const time = nanos(event.time);
  const near = {where: scopeOf(event, scope), during: {from: rfc(time - REACH), to: rfc(time + REACH)}};
  const answer = await ask(near, {kind: 'context', event: conditionOf(event), count: size}, options);
  const found = answer.rows[0];
  if (!found) {
    return {empty: 'the event is not there any more'};
  }
  const rows = [...found.before, found.event, ...found.after];
  const more = direction => html`<button type="button" @click=${() => actions.more(size + MORE)}>${MORE} more ${direction}</button>`;
  return {
    summary: `${counted(found.before.length, 'event')} before and ${found.after.length} after it`,
    template: html`<div class="tools">
      <span role="group" aria-label="Which events">${SCOPES.map(([name, label]) => html`
        <button type="button" aria-pressed=${name === scope} @click=${() => actions.scope(name)}>${label}</button>`)}</span>
      <button type="button" @click=${() => actions.closeAround()}>back to the events</button></div>
      <div class="scroll around" tabindex="0" role="region" aria-label="Events around it">
        ${found.before.length === size ? more('before') : ''}
        <div role="table" aria-label="Events around it">${rows.map(each => row(each, found.event, event, actions))}</div>
        ${found.after.length === size ? more('after') : ''}</div>`,
  };
}

function row(each, middle, event, actions) {
  const element = rowOf(each, COLUMNS, [], ({element: cell, column}) => {
    cell.className = column.width ? 'cell' : 'cell rest';
    cell.style.width = column.width ? `${column.width}ch` : '';
  });
  element.querySelectorAll('[role=gridcell]').forEach(cell => cell.setAttribute('role', 'cell'));
  if (each === middle) {
    element.classList.add('active', 'middle');
  } else {
    const apart = Number(nanos(each.time) - nanos(event.time)) / 1e6;
    element.firstElementChild.title += `, ${length(Math.abs(apart))} ${apart < 0 ? 'before' : 'after'}`;
  }
  element.addEventListener('click', () => actions.open(each));
  return element;
}
