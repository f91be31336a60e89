// Kept questions, and alerts with their states.

import {html, nothing} from 'lit-html';
import {get, postText, remove, post} from './api.js';
import {link} from './state.js';
import {age, currentZone, number} from './times.js';

/** Questions with a name, which all readers share. */
export async function keptQuestions(question, actions) {
  const kept = await get('/kept');
  const keep = async submitted => {
    submitted.preventDefault();
    const name = submitted.target.elements.name.value;
    await actions.trying(() => postText(`/kept?name=${encodeURIComponent(name)}&zone=${encodeURIComponent(currentZone())}`, question), 'the question is kept');
    actions.again();
  };
  return {
    summary: `${kept.length} kept question${kept.length === 1 ? '' : 's'}`,
    template: html`<form class="tools" @submit=${keep}><label>keep the present question as <input name="name" required maxlength="100" size="30"></label>
      <button>keep</button></form>
      ${kept.length ? html`<div class="scroll" tabindex="0" role="region" aria-label="Kept questions"><table class="wide">
      <thead><tr><th scope="col">name</th><th scope="col" class="grow">question</th><th scope="col">kept by</th><th scope="col"><span class="unseen">Actions</span></th></tr></thead>
      <tbody>${kept.map(each => html`<tr>
        <td>${each.text !== undefined ? html`<a href=${link({q: each.text, view: 'events', event: ''})}>${each.name}</a>` : each.name}</td>
        <td class="data">${each.text ?? each.question}</td><td>${each.by ?? ''}</td>
        <td><button type="button" @click=${async () => {
          await actions.trying(() => remove(`/kept?name=${encodeURIComponent(each.name)}`), 'the question is removed');
          actions.again();
        }}>remove</button></td></tr>`)}</tbody></table></div>` : html`<p>No question is kept. Type one above, and give it a name.</p>`}`,
  };
}

/** Alerts: their states, and when each would have fired. */
export async function alerts(actions) {
  const rows = await get('/alerts');
  return {
    summary: `${rows.length} alert${rows.length === 1 ? '' : 's'}`,
    template: rows.length ? html`<div class="scroll" tabindex="0" role="region" aria-label="Alerts"><table class="wide">
      <thead><tr><th scope="col">state</th><th scope="col">alert</th><th scope="col" class="grow">question</th><th scope="col">since</th>
        <th scope="col"><span class="unseen">Actions</span></th></tr></thead>
      <tbody>${rows.map(alert => html`<tr>
        <td>${state(alert)}</td><td>${alert.alert}${alert.group ? html` <span class="data">${alert.group}</span>` : nothing}</td>
        <td class="data">${alert.when !== undefined ? html`<a href=${link({q: alert.when, view: 'events', event: ''})}>${alert.when || 'all events'}</a>` : ''}
          <div class="dim">${alert.test}${alert.found ? `; found ${alert.found}` : ''}</div></td>
        <td>${alert.since ? age(alert.since) : ''}</td>
        <td><button type="button" @click=${() => mute(alert, actions)}>mute for 2 h</button>
          <button type="button" @click=${() => trial(alert, actions)}>try over the last week</button></td></tr>`)}</tbody></table></div>`
      : html`<p>There are no alerts. The settings of the collector define them: see <span class="data">alerts</span> in its documentation.</p>`,
  };
}

const STAGES = {firing: ['■', 'firing'], pending: ['▲', 'about to fire'], clearing: ['■', 'firing, about to end']};

function state(alert) {
  const [mark, text] = alert.muted ? ['◌', `muted until ${alert.muted}`] : STAGES[alert.stage] ?? ['·', 'quiet'];
  return html`<span class="state ${alert.stage}">${mark} ${text}</span>`;
}

async function mute(alert, actions) {
  await actions.trying(() => post(`/alerts/mute?name=${encodeURIComponent(alert.alert)}&for=2h`, {}), 'the alert is muted for two hours');
  actions.again();
}

async function trial(alert, actions) {
  actions.announce('the last week is evaluated …');
  const found = await actions.trying(() => post(`/alerts/try?name=${encodeURIComponent(alert.alert)}&last=7d`, {}));
  if (found) {
    actions.dialog(`Trial of ${alert.alert}`, html`<p>Over the last week it would have fired ${found.length === 1 ? 'once' : `${number(found.length)} times`}.</p>
      <ul class="data">${found.map(each => html`<li>${each.fired} – ${each.ended ?? 'now'}${each.group ? `, ${each.group}` : ''}: ${each.found}</li>`)}</ul>`);
  }
}
