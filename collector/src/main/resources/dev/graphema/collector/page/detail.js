// One event in full: each value with what can be done with it, the failure with the frames of the own code first, and how usual it is.

import {html, nothing, render} from 'lit-html';
import {ask} from './api.js';
import {conditionOf, equal, values} from './conditions.js';
import {course} from './drawing.js';
import {shown} from './event-row.js';
import {cut, visible} from './texts.js';
import {age, counted, date, nanos, number, preciseClock, rfc} from './times.js';

const LONG = 400;
const MOST_VALUES = 200;

export class Detail {
  /** @param actions `include(condition)`, `values(name)`, `rows(name)`, `column(name)`, `trail(trace)`, `around(event)`, `close()`, `copied(what)` */
  constructor(element, actions) {
    this.element = element;
    this.actions = actions;
    this.event = null;
  }

  /** Shows an event; null for none. */
  show(event) {
    const isSame = this.event && event && this.event === event;
    this.event = event;
    this.element.hidden = !event;
    if (!event) {
      render(nothing, this.element);
      return;
    }
    if (!isSame) {
      this.usual = null;
      this.opened = new Set();
      this.all = false;
      this.element.scrollTop = 0;
      this.howUsual(event);
    }
    this.draw();
  }

  /** Finds out how often there is such an event. */
  async howUsual(event) {
    this.stop?.abort();
    this.stop = new AbortController();
    const where = event.fingerprint ? equal('failure.fingerprint', event.fingerprint)
      : ['message', 'logger', 'level'].filter(name => event[name] !== undefined).map(name => equal(name, event[name])).join(' and ');
    try {
      const options = {signal: this.stop.signal};
      const map = await ask({where}, {kind: 'map', most: 60, by: [], shown: 0}, options);
      const first = await ask({where}, {kind: 'events', order: 'oldest', limit: 1}, {...options, fields: ['time']});
      if (this.event === event) {
        const all = map.all.counts.reduce((sum, count) => sum + count, 0);
        this.usual = {count: all, first: first.rows[0]?.time, counts: map.all.counts, errors: map.all.errors, where};
        this.draw();
      }
    } catch (error) {
      if (error.name !== 'AbortError') {
        this.usual = {failed: error.message};
        this.draw();
      }
    }
  }

  draw() {
    const event = this.event;
    render(html`
      <div class="detail-head">
        <h2><span class="level ${event.level}">${event.level}</span> ${cut(event.message ?? '', LONG)}</h2>
        <p class="dim">${event.time ? html`${date(event.time)} ${preciseClock(event.time)}, ${age(event.time)}` : 'no time'}</p>
        <p>${this.usualText()}</p>
        <p class="tools">
          <button type="button" @click=${() => this.actions.around(event)}>events around it</button>
          ${event.trace ? html`<button type="button" @click=${() => this.actions.trail(event.trace)}>its trail</button>` : nothing}
          <button type="button" @click=${() => this.copy(this.text(), 'the event as text')}>copy text</button>
          <button type="button" @click=${() => this.copy(JSON.stringify(event, null, 2), 'the event as JSON')}>copy JSON</button>
          <button type="button" @click=${() => this.copy(location.href, 'the link')}>copy link</button>
          <button type="button" class="close" @click=${() => this.actions.close()} aria-label="Close the event">close</button></p>
      </div>
      ${event.failure ? this.failure(event.failure) : nothing}
      ${this.values()}`, this.element);
  }

  usualText() {
    if (!this.usual) {
      return html`<span class="dim">counting such events …</span>`;
    }
    if (this.usual.failed) {
      return html`<span class="dim">how often there is such an event is not known: ${this.usual.failed}</span>`;
    }
    const {count, first, counts, errors} = this.usual;
    return html`seen ${count === 1 ? 'once' : `${number(count)} times`}${first && count > 1 ? html`, first ${date(first)} ${preciseClock(first)}` : nothing}
      ${count > 1 ? course(counts, errors, {width: 120, height: 14}) : nothing}`;
  }

  values() {
    const all = values(this.event);
    const listed = this.all ? all : all.slice(0, MOST_VALUES);
    let group = '';
    return html`<dl class="values">${listed.map(([name, value]) => {
      const path = name.includes('.') && !(name in this.event) ? name.slice(0, name.lastIndexOf('.')) : '';
      const heading = path && path !== group ? html`<div class="group">${visible(path)}</div>` : nothing;
      group = path;
      return html`${heading}${this.value(name, value, path)}`;
    })}</dl>
    ${all.length > listed.length ? html`<p><button type="button" @click=${() => { this.all = true; this.draw(); }}>
      show ${number(all.length - listed.length)} more values</button></p>` : nothing}`;
  }

  value(name, value, path) {
    const text = shown(value);
    const whole = typeof value === 'object' && value !== null ? JSON.stringify(value) : String(value);
    const isLong = text.length > LONG;
    const isOpen = this.opened.has(name);
    const condition = equal(name, value);
    const isUsable = typeof value !== 'object' && whole.length < 1000;
    return html`<div class="pair ${path ? 'nested' : ''}">
      <dt class="data" title=${visible(name)}>${visible(path ? name.slice(path.length + 1) : name)}</dt>
      <dd class="data">${isLong && !isOpen ? html`${text.slice(0, LONG)}… <button type="button" @click=${() => { this.opened.add(name); this.draw(); }}>
        ${counted(whole.length, 'character')}</button>` : text}${text !== whole && whole.length < 100 && text !== visible(whole) ? html` <span class="dim">${visible(whole)}</span>` : nothing}</dd>
      <dd class="choices">
        ${isUsable ? html`
        <button type="button" title="only events with this value" aria-label="only events with this ${name}" @click=${() => this.actions.include(condition)}>only</button>
        <button type="button" title="only events with another value" aria-label="not events with this ${name}" @click=${() => this.actions.include(`not ${condition}`)}>not</button>` : nothing}
        <span class="further">
        <button type="button" title="its values over time" aria-label="${name} over time" @click=${() => this.actions.rows(name)}>chart</button>
        <button type="button" title="its most frequent values" aria-label="values of ${name}" @click=${() => this.actions.values(name)}>values</button>
        <button type="button" title="copy the value" aria-label="copy ${name}" @click=${() => this.copy(whole, name)}>copy</button>
        <button type="button" title="add as a column" aria-label="${name} as a column" @click=${() => this.actions.column(name)}>column</button></span>
      </dd></div>`;
  }

  failure(failure, depth = 0) {
    if (depth > 20) {
      return html`<p class="dim">further causes are not shown</p>`;
    }
    const own = ownPackage(this.event);
    const frames = (failure.frames ?? []).map(frame => ({frame, isOwn: own !== '' && frame.startsWith(own)}));
    const firstOwn = frames.find(each => each.isOwn);
    const key = `frames${depth}`;
    return html`<section class="failure-whole" aria-label=${depth ? 'Cause' : 'Failure'}>
      <h3>${depth ? 'caused by ' : ''}<span class="data">${cut(failure.type, LONG)}</span></h3>
      <p class="data">${shown(failure.message)}</p>
      ${firstOwn ? html`<p class="data own">${cut(firstOwn.frame, LONG)}</p>` : nothing}
      ${frames.length ? html`<details ?open=${this.opened.has(key)}><summary>${counted(frames.length, 'frame')}${failure.omitted ? `, ${failure.omitted} omitted` : ''}</summary>
        <ol class="frames data">${frames.map(each => html`<li class=${each.isOwn ? 'own' : 'dim'}>${cut(each.frame, LONG)}</li>`)}</ol></details>` : nothing}
      ${failure.cause?.type ? this.failure(failure.cause, depth + 1) : nothing}
      ${(failure.suppressed ?? []).slice(0, 5).map(each => each.type ? this.failure(each, depth + 1) : nothing)}
    </section>`;
  }

  text() {
    return values(this.event).map(([name, value]) => `${name}: ${typeof value === 'object' ? JSON.stringify(value) : value}`).join('\n');
  }

  async copy(text, what) {
    try {
      await navigator.clipboard.writeText(text);
      this.actions.copied(what);
    } catch {
      this.actions.copied(null);
    }
  }

  /** The condition and the window that find only this event. */
  static selection(event) {
    const time = nanos(event.time);
    return {where: conditionOf(event), during: {from: rfc(time), to: rfc(time + 1n)}};
  }
}

/** The first two parts of the logger's name: frames that begin with them are own code. */
function ownPackage(event) {
  const parts = (event.logger ?? '').split('.');
  return parts.length > 1 ? `${parts.slice(0, Math.min(2, parts.length - 1)).join('.')}.` : '';
}
