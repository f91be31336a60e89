// One request across services: a bar for each operation, and its events below. Pointing at one marks the other.

import {html, nothing, svg} from 'lit-html';
import {ask} from './api.js';
import {drawn} from './drawing.js';
import {rowOf, columnsOf} from './event-row.js';
import {trailScale, trailShapes} from './shapes.js';
import {cut} from './texts.js';
import {counted, duration, length, nanos, preciseClock} from './times.js';

/** Answers with the trail of a trace, or of a value of a field. */
export async function trail(name, value, actions, options) {
  const answer = await ask({}, {kind: 'trail', name, value}, options);
  if (!answer.rows.length) {
    return {empty: `no event has ${name} ${value}`};
  }
  const shown = answer.rows[0];
  const {millis} = trailScale(shown);
  const failed = shown.events.find(event => event.failure);
  const others = answer.rows.length > 1 ? `, the first of ${answer.rows.length}` : '';
  return {
    summary: `trail ${shown.name}${others}: ${counted(shown.events.length, 'event')} of ${shown.services.join(', ')} in ${length(millis)}`,
    template: html`<div class="trail">
      <div class="tools"><button type="button" @click=${() => actions.closeTrail()}>back to the events</button>
        <button type="button" @click=${() => actions.include(`trace = ${shown.name}`)}>as a question</button>
        ${answer.rows.slice(1, 8).map(each => html`<button type="button" @click=${() => actions.trail(each.name)}>${each.name.slice(0, 12)}…</button>`)}
      </div>
      ${clocks(shown)} ${gap(shown)}
      ${failed ? html`<p><span class="key error">■</span> the first failure is in <span class="data">${failed.instance ?? failed.service}</span>:
        <button type="button" class="link data" @click=${() => actions.open(failed)}>${cut(`${failed.failure.type?.split('.').pop()}: ${failed.failure.message ?? ''}`, 200)}</button></p>` : nothing}
      <div class="scroll" tabindex="0" role="region" aria-label="Operations">${bars(shown)}</div>
      <div class="scroll trail-events" tabindex="0" role="region" aria-label="Events of the trail">
        <div role="table" aria-label="Events of the trail">${shown.events.map(event => eventRow(event, actions))}</div></div></div>`,
  };
}

function clocks(shown) {
  const ahead = Object.entries(shown.clocks_ahead ?? {});
  return ahead.length ? html`<p>clocks were corrected: ${ahead.map(([where, time]) => `${where} is ${length(Math.abs(duration(time)))} ${duration(time) < 0 ? 'behind' : 'ahead'}`).join('; ')}</p>` : nothing;
}

function gap(shown) {
  let longest = 0n;
  let after = null;
  shown.events.forEach((event, i) => {
    const passed = i ? nanos(event.time) - nanos(shown.events[i - 1].time) : 0n;
    if (passed > longest) {
      longest = passed;
      after = shown.events[i - 1];
    }
  });
  return after && longest > 1_000_000n ? html`<p>the longest gap, ${length(Number(longest) / 1e6)}, is after <span class="data">${cut(after.message ?? '', 200)}</span>
    of <span class="data">${after.instance ?? after.service}</span> at ${preciseClock(after.time)}</p>` : nothing;
}

function bars(shown) {
  const room = (document.getElementById('results').clientWidth || 1100) - 16;
  const {width, height, axis, operations, more} = trailShapes(shown, room);
  return html`<svg class="bars" width=${width} height=${height} role="img"
      aria-label="${counted(shown.operations.length, 'operation')}; the events below have the same information">
    ${axis.map(drawn)}
    ${operations.map(each => svg`<g class="operation ${each.failed ? 'failed' : ''}" data-span=${each.span}
      @pointerenter=${point(true)} @pointerleave=${point(false)}>${drawn(each.band)} ${each.shapes.map(drawn)}</g>`)}</svg>
    ${more > 0 ? html`<p>${more} more operations are not drawn; their events are below.</p>` : nothing}`;
}

/** Marks all that belongs to the same operation. */
function point(isOn) {
  return pointed => {
    const element = pointed.currentTarget;
    element.closest('.trail').querySelectorAll('[data-span]').forEach(each =>
      each.classList.toggle('pointed', isOn && each.dataset.span === element.dataset.span));
  };
}

const COLUMNS = columnsOf('time,level,source,message');

function eventRow(event, actions) {
  const row = rowOf(event, COLUMNS, [], ({element, column}) => {
    element.className = column.width ? 'cell' : 'cell rest';
    element.style.width = column.width ? `${column.width}ch` : '';
  });
  row.querySelectorAll('[role=gridcell]').forEach(cell => cell.setAttribute('role', 'cell'));
  if (event.span) {
    row.dataset.span = event.span;
    row.addEventListener('pointerenter', point(true));
    row.addEventListener('pointerleave', point(false));
  }
  row.addEventListener('click', () => actions.open(event));
  return row;
}
