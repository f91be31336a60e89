// Views that are the answer to one question: failures, message shapes, values, and differences.

import {html, nothing} from 'lit-html';
import {ask} from './api.js';
import {equal, literal} from './conditions.js';
import {course, share} from './drawing.js';
import {shown} from './event-row.js';
import {cut} from './texts.js';
import {age, clock, counted, date, nanos, number, rfc} from './times.js';

const WEEK = 7n * 24n * 3600n * 1_000_000_000n;

const sum = values => values.reduce((all, value) => all + value, 0);

function moment(time) {
  return html`<span title=${`${time}, ${age(time)}`}>${date(time)} ${clock(time)}</span>`;
}

function chosen(actions, condition, what) {
  return html`<span class="choices">
    <button type="button" aria-label="only ${what}" @click=${() => actions.include(condition)}>only</button>
    <button type="button" aria-label="not ${what}" @click=${() => actions.include(`not ${condition}`)}>not</button></span>`;
}

/** Failures by kind: those that did not occur in the week before come first. */
export async function failures(selection, actions, options) {
  const answer = await ask(selection, {kind: 'failures', parts: 40}, options);
  if (!answer.rows.length) {
    return {empty: 'no event has a failure'};
  }
  const before = await knownBefore(selection, answer.rows, options);
  const releases = actions.marks();
  const kinds = answer.rows.map(kind => ({...kind, isNew: before !== null && !before.has(kind.fingerprint), release: lastBefore(releases, kind)}));
  kinds.sort((one, other) => Number(other.isNew) - Number(one.isNew) || other.count - one.count);
  return {
    summary: `${counted(kinds.length, 'kind')} of failures in ${counted(sum(kinds.map(kind => kind.count)), 'event')}`,
    template: html`<div class="scroll" tabindex="0" role="region" aria-label="Failures"><table class="wide">
      <thead><tr><th scope="col">events</th><th scope="col">when</th><th scope="col" class="grow">failure</th><th scope="col">where</th>
        <th scope="col">first</th><th scope="col">last</th><th scope="col"><span class="unseen">Choose</span></th></tr></thead>
      <tbody>${kinds.map(kind => html`<tr>
        <td class="number">${number(kind.count)}</td>
        <td>${course(kind.course, kind.course)}</td>
        <td class="data"><strong>${cut(kind.type?.split('.').pop() ?? '')}</strong> ${shown(kind.message)}
          <div class="dim">${cut(kind.at ?? '')}</div></td>
        <td class="data short">${cut(kind.where.join(', '))}</td>
        <td>${moment(kind.first)}${kind.isNew ? html`<div><span class="tag">new</span></div>` : nothing}
          ${kind.release ? html`<div class="dim">since ${kind.release.text}</div>` : nothing}</td>
        <td>${moment(kind.last)}</td>
        <td>${chosen(actions, equal('failure.fingerprint', kind.fingerprint), kind.type)}
          <button type="button" @click=${() => actions.open(kind.example)}>newest</button></td></tr>`)}</tbody></table></div>`,
  };
}

/** Returns the kinds that occurred in the week before the window; null if the window has no begin. */
async function knownBefore(selection, kinds, {signal}) {
  const begin = selection.during?.from ? nanos(selection.during.from) : null;
  if (begin === null) {
    return null;
  }
  const where = `failure.fingerprint in (${kinds.slice(0, 200).map(kind => literal(kind.fingerprint)).join(', ')})`;
  const during = {from: rfc(begin - WEEK), to: rfc(begin)};
  const answer = await ask({where, during}, {kind: 'counts', by: ['failure.fingerprint']}, {signal});
  return new Set(answer.rows.map(row => row.by['failure.fingerprint']));
}

/** The last mark before a kind of failure that occurs in all its sources at most. */
function lastBefore(marks, kind) {
  return marks.filter(mark => mark.time <= kind.first && (!mark.source || kind.where.some(where => where.includes(mark.source)))).pop();
}

/** Messages by shape: numbers, ids and times in them are left out. */
export async function messages(selection, actions, options) {
  const answer = await ask(selection, {kind: 'map', most: 40, by: ['message.shape'], shown: 150}, options);
  const rows = answer.rows.map(row => ({
    shape: row.by['message.shape'], count: sum(row.counts), errors: sum(row.errors), warnings: sum(row.warnings), counts: row.counts, failed: row.errors,
    first: answer.begins[row.counts.findIndex(count => count > 0)],
    last: answer.begins[row.counts.findLastIndex(count => count > 0)],
  }));
  if (!rows.length) {
    return {empty: 'no event matches'};
  }
  rows.sort((one, other) => other.count - one.count);
  return {
    summary: `${counted(rows.length, 'shape')} of messages${answer.others ? ` of ${number(rows.length + answer.others)}` : ''}`,
    template: html`<div class="scroll" tabindex="0" role="region" aria-label="Message shapes"><table class="wide">
      <thead><tr><th scope="col">events</th><th scope="col">errors</th><th scope="col">when</th><th scope="col" class="grow">message</th>
        <th scope="col">first</th><th scope="col">last</th><th scope="col"><span class="unseen">Choose</span></th></tr></thead>
      <tbody>${rows.map(row => html`<tr>
        <td class="number">${number(row.count)}</td><td class="number">${row.errors ? number(row.errors) : ''}</td>
        <td>${course(row.counts, row.failed)}</td><td class="data">${cut(row.shape ?? '(none)')}</td>
        <td>${clock(row.first)}</td><td>${clock(row.last)}</td>
        <td>${chosen(actions, equal('message.shape', row.shape), row.shape)}</td></tr>`)}</tbody></table></div>`,
  };
}

/** The most frequent values of a name, and its statistics; without a name, all names. */
export async function values(selection, actions, options, name) {
  return name ? valuesOf(selection, actions, options, name) : names(selection, actions, options);
}

async function valuesOf(selection, actions, options, name) {
  const answer = await ask(selection, {kind: 'counts', by: [name]}, options);
  const most = Math.max(0, ...answer.rows.slice(0, 2).filter(row => row.by[name] !== null).map(row => row.count));
  const numeric = answer.rows.some(row => /^-?[\d.]+(e[+-]?\d+)?(ns|us|ms|s|m|h|d)?$/.test(row.by[name] ?? ''));
  const measured = numeric ? await ask(selection, {kind: 'counts', by: [], measured: name}, options) : null;
  const statistics = measured?.rows[0]?.measured;
  return {
    summary: `${counted(answer.rows.length, 'value')} of ${name} in ${counted(answer.all.count, 'event')}`,
    template: html`<div class="tools">
        <button type="button" @click=${() => actions.values('')}>all names</button>
        <button type="button" @click=${() => actions.rows(name)}>over time</button></div>
      ${statistics?.numbers ? html`<dl class="statistics">
        ${[['least', statistics.least], ...statistics.percentiles.map(each => [`${each.of} %`, each.value]), ['most', statistics.most], ['mean', statistics.mean]]
          .map(([label, value]) => html`<div><dt>${label}</dt><dd class="data">${shown(typeof value === 'number' ? Number(value.toPrecision(6)) : value)}</dd></div>`)}</dl>` : nothing}
      <div class="scroll" tabindex="0" role="region" aria-label="Values of ${name}"><table class="wide">
      <thead><tr><th scope="col">events</th><th scope="col">share</th><th scope="col" class="grow">${name}</th><th scope="col"><span class="unseen">Choose</span></th></tr></thead>
      <tbody>${answer.rows.slice(0, 500).map(row => html`<tr>
        <td class="number">${number(row.count)}</td><td>${row.by[name] === null ? nothing : share(row.count, most)}</td>
        <td class="data">${row.by[name] === null ? html`<span class="dim">(missing)</span>` : shown(row.by[name])}</td>
        <td>${chosen(actions, equal(name, row.by[name]), `${name} ${row.by[name]}`)}</td></tr>`)}</tbody></table>
      ${answer.rows.length > 500 ? html`<p>${number(answer.rows.length - 500)} more values: narrow the question.</p>` : nothing}</div>`,
  };
}

async function names(selection, actions, options) {
  const answer = await ask(selection, {kind: 'values', shown: 6}, options);
  return {
    summary: `${counted(answer.rows.length, 'name')}`,
    template: html`<div class="scroll" tabindex="0" role="region" aria-label="Names"><table class="wide">
      <thead><tr><th scope="col">events</th><th scope="col">different</th><th scope="col">name</th><th scope="col" class="grow">most frequent values</th></tr></thead>
      <tbody>${answer.rows.map(row => html`<tr>
        <td class="number">${number(row.events)}</td><td class="number">${number(row.different)}</td>
        <td class="data"><button type="button" @click=${() => actions.values(row.name)}>${cut(row.name, 200)}</button></td>
        <td class="data">${row.values.map(each => html`<button type="button" class="value" title="only this value"
          @click=${() => actions.include(equal(row.name, each.value))}>${shown(each.value).slice(0, 60)} <span class="dim">${number(each.count)}</span></button> `)}</td>
        </tr>`)}</tbody></table></div>`,
  };
}

/** How the events differ from others: `others` has `where` and `during`. */
export async function contrast(selection, others, actions, options) {
  const answer = await ask(selection, {kind: 'contrast', with: others.where || '', during: others.during}, options);
  const percent = value => `${number(Math.round(1000 * value) / 10)} %`;
  return {
    summary: `${counted(answer.events, 'event')} beside ${number(answer.others)} others: ${counted(answer.rows.length, 'difference')}`,
    empty: answer.rows.length ? null : 'there is no difference: the values of both are distributed alike',
    template: html`<div class="tools"><span>${describe(selection)} <strong>beside</strong> ${describe(others)}</span>
        <button type="button" @click=${() => actions.closeContrast()}>back to the events</button></div>
      <div class="scroll" tabindex="0" role="region" aria-label="Differences"><table class="wide">
      <thead><tr><th scope="col">difference</th><th scope="col" class="grow">what</th><th scope="col">others</th><th scope="col">these</th>
        <th scope="col"><span class="unseen">Choose</span></th></tr></thead>
      <tbody>${answer.rows.map(row => html`<tr>
        <td><span class="tag ${row.difference}">${{new: '+ new', gone: '− gone', more: '↑ more', less: '↓ less'}[row.difference]}</span></td>
        <td class="data">${cut(row.condition)}${row.also?.length ? html`<div class="dim">also ${cut(row.also.slice(0, 3).join('; '))}${row.also.length > 3 ? `; ${row.also.length - 3} more` : ''}</div>` : nothing}</td>
        <td class="number">${number(row.others)} <span class="dim">${percent(row.others_share)}</span></td>
        <td class="number">${number(row.events)} <span class="dim">${percent(row.events_share)}</span></td>
        <td>${chosen(actions, row.condition, row.condition)}</td></tr>`)}</tbody></table></div>`,
  };
}

function describe({where, during}) {
  const times = during?.from || during?.to
    ? `${during.from ? `${date(during.from)} ${clock(during.from)}` : 'the beginning'} – ${during.to ? clock(during.to) : 'now'}` : 'all times';
  return html`<span class="data">${where || 'all events'}</span>, ${times}`;
}
