// Boards: several questions on one page, each as a number, by time, as a map, or by its most frequent values, asked again every half minute.

import {html, nothing} from 'lit-html';
import {ask, get, postText, read, remove} from './api.js';
import {course, share} from './drawing.js';
import {shown} from './event-row.js';
import {cut} from './texts.js';
import {link} from './state.js';
import {currentZone, duration, length, number} from './times.js';

const TOP = 8;
const STEPS = 60;
const ROWS = 12;

const sum = values => values.reduce((all, value) => all + value, 0);

/** All boards, or one of them. */
export async function boards(name, question, actions, options) {
  const all = await get('/boards', options.signal);
  const board = all.find(each => each.name === name);
  return board ? one(board, question, actions, options) : list(all, name, actions);
}

function list(all, name, actions) {
  const create = submitted => {
    submitted.preventDefault();
    actions.board(submitted.target.elements.name.value);
  };
  return {
    summary: `${all.length} board${all.length === 1 ? '' : 's'}`,
    template: name ? editor(name, EXAMPLE, actions) : html`<form class="tools" @submit=${create}><label>a new board, named <input name="name" required maxlength="100" size="30"></label>
      <button>write it</button></form>
      ${all.length ? html`<ul class="boards">${all.map(each => html`<li><a href=${link({board: each.name})}>${each.name}</a>
        <span class="dim">${each.parts.length} part${each.parts.length === 1 ? '' : 's'}${each.by ? `, kept by ${each.by}` : ''}</span></li>`)}</ul>`
        : html`<p>There is no board. Give one a name: it shows the answers to several questions, and asks them again every half minute.</p>`}`,
  };
}

const EXAMPLE = `parts:
  - {title: Errors, question: level >= error --last 1h, show: count}
  - {title: Errors over time, question: level >= error --last 1h, show: steps}
  - {title: By instance, question: level >= warn --last 1h, show: map, of: instance}
  - {title: Failures, question: level >= error --last 1h, show: values, of: failure.type}
`;

function editor(name, yaml, actions) {
  const keep = async submitted => {
    submitted.preventDefault();
    const text = submitted.target.elements.yaml.value;
    if (await actions.trying(() => postText(`/boards?name=${encodeURIComponent(name)}`, text), 'the board is kept')) {
      actions.again();
    }
  };
  return html`<form @submit=${keep}><label class="tall">The board ${name}, as YAML: <span class="dim">show is count, steps, map or values; of is a field</span>
    <textarea name="yaml" class="data" rows="14" spellcheck="false" .value=${yaml}></textarea></label>
    <div class="tools"><button>keep the board</button><button type="button" @click=${() => actions.board('')}>all boards</button></div></form>`;
}

async function one(board, question, actions, options) {
  const parts = await Promise.all(board.parts.map(part => answered(part, options)));
  const add = async submitted => {
    submitted.preventDefault();
    const {title, show, of} = submitted.target.elements;
    const quoted = text => JSON.stringify(text);
    const line = `  - {title: ${quoted(title.value)}, question: ${quoted(question)}, show: ${show.value}${of.value ? `, of: ${quoted(of.value)}` : ''}}\n`;
    if (await actions.trying(() => postText(`/boards?name=${encodeURIComponent(board.name)}`, `${board.yaml.trimEnd()}\n${line}`), 'the part is added')) {
      actions.again();
    }
  };
  return {
    summary: `board ${board.name}`,
    refresh: true,
    template: html`<div class="tools"><strong>${board.name}</strong>
        <button type="button" @click=${() => actions.board('')}>all boards</button>
        <button type="button" @click=${async () => {
          await actions.trying(() => remove(`/boards?name=${encodeURIComponent(board.name)}`), 'the board is removed');
          actions.board('');
        }}>remove it</button></div>
      <div class="board">${parts.map(each => html`<section class="part ${each.part.show}">
        <h3><a href=${link({q: each.part.question, view: each.part.show === 'values' ? 'values' : 'events', name: each.part.of ?? '', board: ''})}>${each.part.title}</a></h3>
        ${each.error ? html`<p class="wrong-text">${each.error}</p>` : each.drawn}</section>`)}</div>
      <details class="more"><summary>add the present question</summary>
        <form class="tools" @submit=${add}><span class="data">${question || 'all events'}</span>
          <label>title <input name="title" required size="24"></label>
          <label>show <select name="show"><option>count</option><option>steps</option><option>map</option><option>values</option></select></label>
          <label>of <input name="of" size="14"></label><button>add</button></form></details>
      <details class="more"><summary>edit as YAML</summary>${editor(board.name, board.yaml, actions)}</details>`,
  };
}

async function answered(part, options) {
  try {
    const selection = await read(part.question, currentZone(), options.signal);
    return {part, drawn: await drawn(part, selection, options)};
  } catch (error) {
    if (error.name === 'AbortError') {
      throw error;
    }
    return {part, error: error.message};
  }
}

async function drawn(part, selection, options) {
  if (part.show === 'count') {
    const answer = await ask(selection, {kind: 'counts', by: []}, options);
    return html`<p class="large data">${number(answer.all.count)}</p>`;
  }
  if (part.show === 'values') {
    const answer = await ask(selection, {kind: 'counts', by: [part.of]}, options);
    const most = answer.rows[0]?.count ?? 0;
    return answer.rows.length ? html`<table><tbody>${answer.rows.slice(0, TOP).map(row => html`<tr><td class="number">${number(row.count)}</td><td>${share(row.count, most, 80)}</td>
      <td class="data">${row.by[part.of] === null ? '(missing)' : shown(row.by[part.of]).slice(0, 80)}</td></tr>`)}</tbody></table>` : html`<p class="dim">no events</p>`;
  }
  const by = part.show === 'map' ? (part.of ?? 'service').split(',').map(each => each.trim()) : [];
  const map = await ask(selection, {kind: 'map', most: STEPS, by, shown: ROWS}, options);
  if (!map.begins.length) {
    return html`<p class="dim">no events</p>`;
  }
  const rows = part.show === 'map' ? map.rows : [map.all];
  return html`<table><tbody>${rows.map(row => html`<tr>${row.by ? html`<th scope="row" class="data">${cut(Object.values(row.by).filter(each => each !== null).join(' ') || '(none)', 60)}</th>` : nothing}
    <td>${course(row.counts, row.errors, {width: 220, height: part.show === 'map' ? 16 : 48})}</td><td class="number">${number(sum(row.counts))}</td></tr>`)}</tbody></table>
    <p class="dim">in steps of ${length(duration(map.step))}</p>`;
}
