// The page: reads the question in the address, asks it, and shows the answers in the view of the address.

import {html, nothing, render} from 'lit-html';
import {alternatives, cost, searched} from './advice.js';
import {Problem, ask, get, read} from './api.js';
import {EventList} from './event-list.js';
import {columnsOf, columnsText} from './event-row.js';
import {TimeMap} from './time-map.js';
import {Detail} from './detail.js';
import {Live} from './live.js';
import {go, link, onChange, state} from './state.js';
import {clock, counted, currentZone, date, duration, nanos, number, rfc, setZone} from './times.js';
import {recent, remember} from './recent.js';
import {compared, narrowed} from './selections.js';
import {exchangeSecret, form, session} from './sign-in.js';
import {split, withCondition, withOrder, withWindow} from './conditions.js';
import {listen} from './keys.js';
import {help} from './help.js';
import {cut} from './texts.js';

const element = id => document.getElementById(id);
const MAP_STEPS = 160;
const MAP_ROWS = 40;
const MOST_MARKS = 30;
const FIRST_ROWS = 60;
const QUICK = '400ms';
const MAP_AFTER_MILLIS = 250;
const REFRESH_MILLIS = 30_000;
const LIVE_MAP_MILLIS = 5_000;
const CHANGED = 'settings changed';
const MARKS = `(release exists and message has start) or message = "${CHANGED}"`;
const KEPT_MARKS = 'marks';
const VIEWS = [['events', 'Events'], ['failures', 'Failures'], ['messages', 'Messages'], ['values', 'Values'], ['live', 'Live'],
  ['kept', 'Kept'], ['boards', 'Boards'], ['alerts', 'Alerts']];

element('summary').textContent = '';
const page = {session: null, selection: null, marks: [], names: null, stop: new AbortController(), editor: null, live: null, answered: null};

const list = new EventList(element('results'), {
  open: event => open(event),
  columns: columns => go({columns: columnsText(columns)}, {replace: true}),
  failed,
});
const map = new TimeMap(element('map'), {narrow, compare, rows: by => go({by: by.replace(/\s/g, '')})});
const detail = new Detail(element('detail'), {
  include, values: name => go({view: 'values', name}), rows: by => go({by, view: 'events'}), column,
  trail: value => go({view: 'trail', name: 'trace', value}),
  around: event => go({view: 'around', event: identity(event)}),
  close, copied: what => announce(what ? `${what} is copied` : 'the browser does not allow copying'),
});

function announce(text) {
  element('announcements').textContent = text;
  const note = element('note');
  if (note) {
    note.textContent = text ? `· ${text}` : '';
  }
}

function failed(error) {
  if (error.name === 'AbortError') {
    return;
  }
  if (error instanceof Problem && error.status === 401) {
    signIn();
    return;
  }
  summary(html`<span class="wrong-text">${error.message}</span>`);
}

function summary(text) {
  render(html`${text} <span id="note" class="dim"></span>`, element('summary'));
}

/** Asks for name and password, and begins again when they are accepted. */
function signIn(message = '') {
  summary('Sign in to see events.');
  element('map').hidden = true;
  const begin = async () => {
    page.session = await session();
    element('results').replaceChildren(list.scroller);
    await start();
  };
  render(form(message, () => begin().catch(failed), signIn), area());
}

/** Returns the area for a view that is not the list of events. */
function area() {
  let view = document.getElementById('view');
  if (!view) {
    view = document.createElement('div');
    view.id = 'view';
  }
  if (!element('results').contains(view)) {
    element('results').replaceChildren(view);
  }
  return view;
}

async function start() {
  element('map').hidden = false;
  frame();
  loadEditor().catch(failed);
  await changed(state(), {});
}

function frame() {
  const now = state();
  setZone(now.zone);
  render(html`
    <div class="bar">
      <a class="name" href="#" aria-label="Graphema: all events">graphema</a>
      <div id="editor"><input id="plain" aria-label="Question" .value=${now.q} @change=${event => submit(event.target.value)}></div>
      <button type="button" @click=${() => submit(page.editor ? page.editor.text() : element('plain').value)}>ask</button>
      <button type="button" title="oldest or newest first (o)" @click=${turn}>${page.answered?.order === 'oldest' ? 'oldest' : 'newest'} first</button>
      <button type="button" title="local time or UTC (z)" @click=${changeZone}>${currentZone() === 'UTC' ? 'UTC' : 'local time'}</button>
      <button type="button" title="help (?)" @click=${showHelp}>help</button>
    </div>
    <p id="question-error" class="wrong-text" role="alert"></p>`, element('question'));
  const views = VIEWS.filter(([name]) => name !== 'alerts' || page.session?.role === 'administer');
  render(html`<ul>${views.map(([name, label], i) => html`<li><a href=${link({view: name, value: '', name: '', with: ''})}
    aria-current=${now.view === name ? 'page' : 'false'} title="${i + 1}">${label}</a></li>`)}
    ${{trail: 'Trail', around: 'Around', contrast: 'Comparison'}[now.view] ? html`<li><a href=${link({})} aria-current="page">${{trail: 'Trail', around: 'Around', contrast: 'Comparison'}[now.view]}</a></li>` : nothing}
    ${now.view === 'events' || now.view === 'live' ? html`<li class="columns-box"><label>columns <input class="short" spellcheck="false" size="30" .value=${now.columns}
      @change=${event => go({columns: columnsText(columnsOf(event.target.value.replace(/\s/g, '')))}, {replace: true})}></label></li>` : nothing}</ul>`, element('views'));
}

async function loadEditor() {
  if (page.editor) {
    return;
  }
  const {createEditor} = await import('./editor.js');
  const plain = element('plain');
  const had = document.activeElement === plain;
  const nonce = document.querySelector('meta[name=nonce]').content;
  const parent = document.createElement('div');
  parent.className = 'editor';
  page.editor = createEditor(parent, plain.value, {names: names, questions: async () => [...(await (page.kept ?? [])).map(each => each.text).filter(text => text), ...recent()]}, submit, nonce);
  plain.hidden = true;
  plain.after(parent);
  if (had) {
    page.editor.focus();
  }
}

async function names() {
  page.names ??= ask({...page.selection, where: ''}, {kind: 'values', shown: 8}, {within: '3s'}).then(answer => answer.rows).catch(() => []);
  return page.names;
}

function submit(question) {
  const text = question.trim();
  if (text === state().q) {
    askQuestion(true);
  } else {
    go({q: text, event: '', view: ['events', 'failures', 'messages', 'values', 'live'].includes(state().view) ? state().view : 'events'});
  }
}

function include(condition) {
  go({q: withCondition(state().q, condition), view: ['trail', 'around', 'contrast', 'kept', 'boards', 'alerts'].includes(state().view) ? 'events' : state().view});
}

function column(name) {
  const columns = columnsOf(state().columns);
  if (!columns.some(each => each.name === name)) {
    const place = columns.findIndex(each => each.name === 'message');
    columns.splice(place < 0 ? columns.length : place, 0, ...columnsOf(name));
    go({columns: columnsText(columns), view: 'events'}, {replace: true});
  }
}

function narrow(selection) {
  go({q: narrowed(state().q, selection, map.rows.map(row => row.by)), event: ''});
}

function compare(selection, kind, first) {
  const [q, other] = compared(state().q, selection, kind, first, map.rows.map(row => row.by));
  go({q, with: other, view: 'contrast', event: ''});
}

function turn() {
  go({q: withOrder(state().q, page.answered?.order === 'oldest' ? 'newest' : 'oldest')});
}

function changeZone() {
  go({zone: currentZone() === 'UTC' ? '' : 'UTC'}, {replace: true});
}

/** What identifies an event in the address: the condition and the window that find only this event. */
function identity(event) {
  return JSON.stringify(Detail.selection(event));
}

function open(event) {
  detail.show(event);
  go({event: identity(event)}, {replace: state().event !== ''});
}

function close() {
  detail.show(null);
  go({event: ''}, {replace: true});
  list.scroller.isConnected && list.focus();
}

async function openFromAddress(signal) {
  const wanted = state().event;
  if (!wanted) {
    detail.show(null);
    return null;
  }
  if (detail.event && identity(detail.event) === wanted) {
    return detail.event;
  }
  let selection;
  try {
    selection = JSON.parse(wanted);
  } catch {
    announce('the event in the address cannot be read: the link is damaged');
    return null;
  }
  const answer = await ask(selection, {kind: 'events', order: 'oldest', limit: 1}, {signal});
  const event = answer.rows[0] ?? null;
  detail.show(event);
  if (!event) {
    announce('the event of the link is not there, or not visible to you');
  }
  return event;
}

/** Shows what has changed: only what is necessary is asked again. */
async function changed(now, before) {
  setZone(now.zone);
  frame();
  page.editor?.set(now.q);
  if (element('plain').value !== now.q) {
    element('plain').value = now.q;
  }
  const isQuestion = ['q', 'by', 'zone'].some(key => now[key] !== before[key]);
  const isView = ['view', 'name', 'value', 'with', 'around', 'board'].some(key => now[key] !== before[key]) || now.view === 'around' && now.event !== before.event;
  if (isQuestion || before.view === undefined) {
    await askQuestion(false);
  } else if (isView) {
    await Promise.all([view(), now.event === before.event ? null : openFromAddress(page.stop.signal).catch(failed)]);
  } else {
    if (now.columns !== before.columns) {
      list.setColumns(columnsOf(now.columns));
    }
    if (now.event !== before.event) {
      await openFromAddress(page.stop.signal).catch(failed);
    }
  }
}

/** Reads the question, and asks it. */
async function askQuestion(isForced) {
  page.stop.abort();
  page.stop = new AbortController();
  const {signal} = page.stop;
  const text = state().q;
  try {
    page.selection = await read(text, currentZone(), signal);
    page.editor?.error(0);
    element('question-error').textContent = '';
  } catch (error) {
    if (error instanceof Problem && error.column) {
      page.editor?.error(error.column);
      element('question-error').textContent = `column ${error.column}: ${error.message}`;
      document.title = 'Graphema';
    } else {
      failed(error);
    }
    return;
  }
  page.answered = {order: page.selection.order};
  page.firstRows = null;
  page.names = null;
  document.title = text ? `${text} – Graphema` : 'Graphema';
  remember(text);
  frame();
  try {
    if (isForced || await isAffordable(text, signal)) {
      const shown = view();
      // The first rows come first: on a small machine, questions that are answered at once delay each other.
      await Promise.race([page.firstRows ?? shown, later(MAP_AFTER_MILLIS)]);
      await Promise.all([timeMap(signal), shown, openFromAddress(signal)]);
    }
  } catch (error) {
    failed(error);
  }
}

/** States the cost of an expensive question, and suggests a cheaper one, before it is asked. */
async function isAffordable(question, signal) {
  const events = await cost(question, page.selection, signal);
  if (events) {
    summary(html`This reads the texts of ${counted(events, 'event')}. Narrow the window, or add a service or level first, such as
      <button type="button" @click=${() => submit(withWindow(question, '--last 1h'))}>--last 1h</button>; or
      <button type="button" @click=${() => askQuestion(true)}>ask it nevertheless</button>`);
  }
  return !events;
}

function later(millis) {
  return new Promise(resolve => setTimeout(resolve, millis));
}

async function timeMap(signal) {
  const by = state().by.split(',').filter(each => each);
  const wanted = {kind: 'map', most: MAP_STEPS, by, shown: MAP_ROWS, zone: currentZone()};
  const timer = setTimeout(() => ask(page.selection, wanted, {signal, within: QUICK}).then(partial => {
    if (!signal.aborted && !page.answered.map) {
      map.byText = state().by;
      map.show(partial, page.marks, {isPartial: true});
    }
  }).catch(() => {}), 300);
  try {
    const [answer, marks] = await Promise.all([
      ask(page.selection, wanted, {signal, progress: share => progress(share)}),
      ask({where: await marked(), during: page.selection.during}, {kind: 'events', order: 'newest', limit: MOST_MARKS}, {signal}).catch(() => ({rows: []})),
    ]);
    page.answered.map = answer;
    page.marks = marks.rows.map(event => {
      const source = event.instance ?? event.service ?? '';
      return {time: event.time, source, text: cut(`${source} ${event.message !== CHANGED && event.fields?.release || event.message || ''}`, 60)};
    });
    map.byText = state().by;
    map.show(answer, page.marks);
    if (!signal.aborted) {
      indexed(answer);
      summarise(answer);
    }
  } finally {
    clearTimeout(timer);
  }
}

/** The condition for marks on the time map: that of the kept question `marks`, or else starts of releases and changes of settings. */
async function marked() {
  page.kept ??= get('/kept').catch(() => []);
  const own = (await page.kept).find(each => each.name === KEPT_MARKS);
  return own?.text ? split(own.text).condition : MARKS;
}

function progress(share) {
  announce(`${Math.round(100 * share)} % read`);
}

const sum = values => values.reduce((all, value) => all + value, 0);

function summarise(answer) {
  const all = sum(answer.all.counts);
  if (!all) {
    nothingFound();
    return;
  }
  const end = rfc(nanos(answer.begins[answer.begins.length - 1]) + BigInt(Math.round(duration(answer.step) * 1e6)));
  const {during, order} = page.selection;
  const notes = [...(answer.coverage.truncated ?? []), ...(answer.coverage.stopped ? ['reading was stopped, so that this is a part'] : []),
    ...(answer.coverage.failures ?? []).map(each => `${each.source}: ${each.reason}`)];
  const kept = sum(answer.kept);
  summary(html`<strong>${counted(all, 'event')}</strong>${kept < all ? html` <span title="sampled events were counted with their weights">(${number(kept)} kept)</span>` : nothing} ·
    <span class="key warn">▯</span> ${counted(sum(answer.all.warnings), 'warning')} · <span class="key error">▮</span> ${counted(sum(answer.all.errors), 'error')} ·
    ${date(answer.begins[0])} ${clock(during?.from ?? answer.begins[0])} – ${date(end) === date(answer.begins[0]) ? '' : date(end)} ${clock(during?.to ?? end)}
    ${currentZone() === 'UTC' ? 'UTC' : ''} · ${order} first ${notes.map(note => html`<span class="wrong-text">· ${note}</span>`)}`);
}

/** Finds out which part of the condition excludes everything. */
async function nothingFound() {
  const {signal} = page.stop;
  const question = state().q;
  summary(html`<strong>no event matches.</strong>`);
  const found = await alternatives(question, page.selection, signal);
  if (!signal.aborted) {
    summary(html`<strong>no event matches${found.length ? ':' : '; removing one part of the question finds none, either'}</strong>
      ${found.map(each => html`<button type="button" @click=${() => submit(each.q)}>${each.text}: ${counted(each.count, 'event')}</button> `)}`);
  }
}

async function events(signal) {
  if (!element('results').contains(list.scroller)) {
    element('results').replaceChildren(list.scroller);
  }
  list.setColumns(columnsOf(state().columns));
  const index = list.show(page.selection, page.selection.order, searched(state().q), signal);
  page.firstRows = ask(page.selection, {kind: 'events', order: page.selection.order, limit: FIRST_ROWS}, {signal}).then(first => {
    performance.mark('first-rows');
    index.first(page.selection.order === 'newest' ? first.rows.reverse() : first.rows);
    list.resized();
    if (page.answered.map) {
      indexed(page.answered.map);
    }
  });
  await page.firstRows;
}

/** The time map has the numbers of all events, so that the list knows where each of them is. */
function indexed(answer) {
  if (list.index?.chunks.length && state().view === 'events' && !list.index.isComplete) {
    list.index.steps(answer);
    list.resized();
  }
}

const actions = {
  announce, include, open, marks: () => page.marks, values: name => go({view: 'values', name}), rows: by => go({by, view: 'events'}),
  closeContrast: () => go({view: 'events', with: ''}), closeTrail: () => go({view: 'events', value: '', name: ''}), closeAround: () => go({view: 'events'}),
  trail: value => go({view: 'trail', name: 'trace', value}), scope: around => go({around}), board: board => go({board, view: 'boards'}),
  again: () => {
    page.kept = null;
    return view();
  },
  dialog,
  async trying(request, done) {
    try {
      const answer = await request();
      announce(done ?? '');
      return answer;
    } catch (error) {
      announce(error.message);
      return null;
    }
  },
};

/** Shows the view of the address. */
async function view() {
  const now = state();
  const {signal} = page.stop;
  announce('');
  element('map').hidden = ['kept', 'boards', 'alerts'].includes(now.view);
  page.live?.end();
  page.live = null;
  clearInterval(page.timer);
  try {
    if (now.view === 'live') {
      await live();
    } else if (now.view === 'events') {
      await events(signal);
    } else {
      await shownView(now, signal);
    }
  } catch (error) {
    failed(error);
  }
}

async function shownView(now, signal) {
  const answer = await answerOf(now, {signal});
  if (signal.aborted || state().view !== now.view) {
    return;
  }
  const target = area();
  render(answer.empty ? html`<p>${answer.empty}</p>` : answer.template, target);
  announce(answer.summary ?? answer.empty ?? '');
  target.querySelector('.middle')?.scrollIntoView({block: 'center'});
  if (answer.refresh) {
    clearTimeout(page.timer);
    page.timer = setTimeout(() => refreshed(now, signal), REFRESH_MILLIS);
  }
}

/** Shows a view again, unless somebody is typing in it. */
function refreshed(now, signal) {
  if (element('view')?.contains(document.activeElement)) {
    page.timer = setTimeout(() => refreshed(now, signal), REFRESH_MILLIS);
  } else {
    shownView(now, signal).catch(failed);
  }
}

async function answerOf(now, options) {
  switch (now.view) {
    case 'failures':
      return (await import('./result-views.js')).failures(page.selection, actions, options);
    case 'messages':
      return (await import('./result-views.js')).messages(page.selection, actions, options);
    case 'values':
      return (await import('./result-views.js')).values(page.selection, actions, options, now.name);
    case 'contrast':
      return (await import('./result-views.js')).contrast(page.selection, await read(now.with, currentZone(), options.signal), actions, options);
    case 'trail':
      return (await import('./trail.js')).trail(now.name, now.value, actions, options);
    case 'around': {
      const event = await openFromAddress(options.signal);
      const shown = (await import('./surroundings.js')).surroundings;
      return event ? shown(event, now.around, page.around ?? 0, {...actions, more: count => { page.around = count; view(); }}, options)
        : {empty: 'open an event first: the events around it are shown here'};
    }
    case 'kept':
      return (await import('./kept.js')).keptQuestions(now.q, actions);
    case 'alerts':
      return (await import('./kept.js')).alerts(actions);
    default:
      return (await import('./boards.js')).boards(now.board, now.q, actions, options);
  }
}

async function live() {
  let arrived = 0;
  page.live = new Live(element('results'), {
    open, failed,
    status: text => { const note = element('note'); if (note) { note.textContent = `· ${text}`; } },
    arrived: count => { arrived += count; },
  });
  page.timer = setInterval(async () => {
    if (arrived && !page.live?.isPaused) {
      arrived = 0;
      page.selection = await read(state().q, currentZone()).catch(() => page.selection);
      await timeMap(page.stop.signal).catch(failed);
    }
  }, LIVE_MAP_MILLIS);
  await page.live.start(page.selection.where, columnsOf(state().columns));
}

function dialog(title, content) {
  const opener = document.activeElement;
  const closeDialog = () => {
    render(nothing, element('overlay'));
    opener?.focus?.();
  };
  render(html`<dialog aria-label=${title} @close=${closeDialog}><div class="tools"><h2>${title}</h2>
    <button type="button" @click=${event => event.target.closest('dialog').close()}>close</button></div>${content}</dialog>`, element('overlay'));
  element('overlay').querySelector('dialog').showModal();
}

function showHelp() {
  dialog('Help', help());
}

listen({
  '/': () => page.editor ? page.editor.focus() : element('plain').focus(),
  'u': () => history.back(), 'm': () => map.focus(), 'e': () => list.scroller.isConnected ? list.focus() : element('results').focus(),
  'd': () => element('detail').querySelector('button')?.focus(), 'o': turn, 'z': changeZone, '?': showHelp,
  'a': () => detail.event && go({view: 'around'}), 't': () => detail.event?.trace && go({view: 'trail', name: 'trace', value: detail.event.trace}),
  'Escape': () => detail.event && close(),
  ...Object.fromEntries(VIEWS.map(([name], i) => [String(i + 1), () => go({view: name, name: '', value: '', with: ''})])),
});

onChange((now, before) => changed(now, before));

// What a test or somebody who measures can ask: the number of rows of the list, and whether all is answered.
window.graphema = {list, map, state};

try {
  await exchangeSecret();
  page.session = await session();
  start().catch(failed);
} catch (error) {
  failed(error);
}
