// One request across services: a bar for each operation, and its events below. Pointing at one marks the other.

import {html, nothing, svg} from 'lit-html';
import {ask} from './api.js';
import {rowOf, columnsOf} from './event-row.js';
import {cut} from './texts.js';
import {counted, duration, length, nanos, preciseClock} from './times.js';

const ROW = 20;
const LABEL = 300;
const AFTER = 80;
const MOST_BARS = 400;

/** Answers with the trail of a trace, or of a value of a field. */
export async function trail(name, value, actions, options) {
  const answer = await ask({}, {kind: 'trail', name, value}, options);
  if (!answer.rows.length) {
    return {empty: `no event has ${name} ${value}`};
  }
  const shown = answer.rows[0];
  const scale = scaleOf(shown);
  const failed = shown.events.find(event => event.failure);
  const others = answer.rows.length > 1 ? `, the first of ${answer.rows.length}` : '';
  return {
    summary: `trail ${shown.name}${others}: ${counted(shown.events.length, 'event')} of ${shown.services.join(', ')} in ${length(scale.millis)}`,
    template: html`<div class="trail">
      <div class="tools"><button type="button" @click=${() => actions.closeTrail()}>back to the events</button>
        <button type="button" @click=${() => actions.include(`trace = ${shown.name}`)}>as a question</button>
        ${answer.rows.slice(1, 8).map(each => html`<button type="button" @click=${() => actions.trail(each.name)}>${each.name.slice(0, 12)}…</button>`)}
      </div>
      ${clocks(shown)} ${gap(shown)}
      ${failed ? html`<p><span class="key error">■</span> the first failure is in <span class="data">${failed.instance ?? failed.service}</span>:
        <button type="button" class="link data" @click=${() => actions.open(failed)}>${cut(`${failed.failure.type?.split('.').pop()}: ${failed.failure.message ?? ''}`, 200)}</button></p>` : nothing}
      <div class="scroll" tabindex="0" role="region" aria-label="Operations">${bars(shown, scale)}</div>
      <div class="scroll trail-events" tabindex="0" role="region" aria-label="Events of the trail">
        <div role="table" aria-label="Events of the trail">${shown.events.map(event => eventRow(event, scale, actions))}</div></div></div>`,
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

function ahead(shown, where) {
  const time = shown.clocks_ahead?.[where];
  return time ? BigInt(Math.round(duration(time) * 1e6)) : 0n;
}

function scaleOf(shown) {
  const begins = shown.operations.map(each => nanos(each.from) - ahead(shown, each.where));
  const ends = shown.operations.map((each, i) => begins[i] + BigInt(Math.round((each.elapsed ? duration(each.elapsed) : 0) * 1e6)));
  const times = shown.events.map(event => nanos(event.time) - ahead(shown, event.instance ?? event.service));
  const all = [...begins, ...ends, ...times];
  const begin = all.reduce((least, each) => each < least ? each : least);
  const end = all.reduce((most, each) => each > most ? each : most);
  return {begin, millis: Math.max(0.001, Number(end - begin) / 1e6)};
}

function bars(shown, {begin, millis}) {
  const width = Math.max(260, (document.getElementById('results').clientWidth || 1100) - LABEL - AFTER - 16);
  const listed = shown.operations.slice(0, MOST_BARS);
  const height = listed.length * ROW + 18;
  const x = time => LABEL + width * Number(time - begin) / 1e6 / millis;
  return html`<svg class="bars" width=${LABEL + width + AFTER} height=${height} role="img"
      aria-label="${counted(shown.operations.length, 'operation')}; the events below have the same information">
    ${[0, 0.25, 0.5, 0.75, 1].map(part => svg`<path class="base" d="M${LABEL + width * part} 0V${height - 16}"></path>
      <text class="axis" x=${LABEL + width * part} y=${height - 3} text-anchor=${part === 1 ? 'end' : 'middle'}>${length(millis * part)}</text>`)}
    ${listed.map((each, y) => {
      const from = nanos(each.from) - ahead(shown, each.where);
      const left = x(from);
      const wide = each.elapsed ? Math.max(2, width * duration(each.elapsed) / millis) : 2;
      const label = `${'  '.repeat(Math.min(each.depth, 20))}${each.where} ${each.name ?? '(not ended)'}`;
      return svg`<g class="operation ${each.failed ? 'failed' : ''}" data-span=${each.span} @pointerenter=${point(true)} @pointerleave=${point(false)}>
        <rect class="hit" x="0" y=${y * ROW} width=${LABEL + width + AFTER} height=${ROW}></rect>
        <text class="label" xml:space="preserve" x="0" y=${y * ROW + 14}>${cut(label, 44)}</text>
        <rect class="span" x=${left} y=${y * ROW + 4} width=${wide} height=${ROW - 8}></rect>
        ${each.failed ? svg`<text class="cross" x=${left - 12} y=${y * ROW + 14}>✕</text>` : nothing}
        <text class="axis" x=${left + wide + 4} y=${y * ROW + 14}>${each.elapsed ? length(duration(each.elapsed)) : ''}</text></g>`;
    })}</svg>
    ${shown.operations.length > MOST_BARS ? html`<p>${shown.operations.length - MOST_BARS} more operations are not drawn; their events are below.</p>` : nothing}`;
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

function eventRow(event, scale, actions) {
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
