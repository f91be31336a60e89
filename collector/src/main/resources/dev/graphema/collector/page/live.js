// Events as they arrive. The newest are below; scrolling up or pointing at a row pauses, and what arrives meanwhile is counted.

import {ask} from './api.js';
import {rowOf} from './event-row.js';
import {number} from './times.js';

const MOST_ROWS = 2_000;
const MOST_WAITING = 5_000;
const FIRST = 100;
const DRAWN_EVERY_MILLIS = 100;

export class Live {
  /**
   * @param element is filled
   * @param actions `open(event)`, `status(text)`, `arrived(count)`, `failed(error)`
   */
  constructor(element, actions) {
    this.actions = actions;
    this.list = document.createElement('div');
    this.list.className = 'list live';
    this.list.tabIndex = 0;
    this.list.setAttribute('role', 'log');
    this.list.setAttribute('aria-label', 'Events as they arrive');
    this.list.setAttribute('aria-live', 'off');
    this.rows = document.createElement('div');
    this.rows.setAttribute('role', 'table');
    this.rows.setAttribute('aria-label', 'Events');
    this.resume = document.createElement('button');
    this.resume.type = 'button';
    this.resume.className = 'resume';
    this.resume.addEventListener('click', () => this.continue());
    this.list.append(this.rows);
    element.replaceChildren(this.list, this.resume);
    this.waiting = [];
    this.missed = 0;
    this.arrived = 0;
    this.isPaused = false;
    this.list.addEventListener('scroll', () => {
      if (!this.isMoving) {
        this.setPaused(this.list.scrollHeight - this.list.scrollTop - this.list.clientHeight > 30);
      }
    }, {passive: true});
    this.list.addEventListener('keydown', event => {
      if (event.key === ' ' || event.key === 'End') {
        event.preventDefault();
        this.isPaused && event.key === ' ' || event.key === 'End' ? this.continue() : this.setPaused(true);
      }
    });
    // A row must not move away from under the pointer.
    this.rows.addEventListener('pointermove', () => {
      if (!this.isPaused) {
        this.isPointedAt = true;
        this.setPaused(true);
      }
    });
    this.list.addEventListener('pointerleave', () => {
      if (this.isPointedAt) {
        this.isPointedAt = false;
        this.setPaused(false);
      }
    });
    this.rows.addEventListener('click', event => {
      const row = event.target.closest('[role=row]');
      if (row?.event) {
        this.isPointedAt = false;
        this.setPaused(true);
        this.actions.open(row.event);
      }
    });
  }

  /** Begins; `columns` are those of the list of events. */
  async start(where, columns) {
    this.columns = columns;
    this.stop = new AbortController();
    this.stream = new EventSource(`/live${where ? `?where=${encodeURIComponent(where)}` : ''}`);
    const early = [];
    let isReady = false;
    this.stream.onmessage = message => {
      isReady ? this.take(message.data) : early.push(message.data);
    };
    this.stream.addEventListener('missed', message => {
      this.missed += Number(message.data);
      this.draw();
    });
    this.stream.onerror = () => {
      this.isBroken = this.stream.readyState !== EventSource.OPEN;
      this.draw();
    };
    this.stream.onopen = () => {
      this.isBroken = false;
      this.draw();
    };
    try {
      const newest = await ask({where}, {kind: 'events', order: 'newest', limit: FIRST}, {signal: this.stop.signal});
      // The stream was opened before: what is in both arrived in between.
      const known = new Set(newest.rows.map(event => JSON.stringify(event)));
      newest.rows.forEach(event => this.waiting.push(event));
      isReady = true;
      early.filter(text => !known.has(JSON.stringify(JSON.parse(text)))).forEach(text => this.take(text));
    } catch (error) {
      if (error.name !== 'AbortError') {
        this.actions.failed(error);
      }
      return;
    }
    this.timer = setInterval(() => this.draw(), DRAWN_EVERY_MILLIS);
    this.draw();
  }

  take(text) {
    this.waiting.push(JSON.parse(text));
    this.arrived++;
    if (this.waiting.length > MOST_WAITING) {
      this.waiting.splice(0, this.waiting.length - MOST_WAITING);
    }
  }

  draw() {
    const parts = [this.isBroken ? 'the connection is interrupted, trying again' : this.isPaused ? 'paused' : 'live', `${number(this.arrived)} arrived`];
    if (this.missed) {
      parts.push(`${number(this.missed)} left out, because they arrived faster than they could be sent`);
    }
    this.actions.status(parts.join('; '));
    this.resume.hidden = !this.isPaused;
    this.resume.textContent = `${number(this.waiting.length)} new: continue (Space)`;
    if (this.isPaused || !this.waiting.length) {
      return;
    }
    const added = this.waiting.splice(0).slice(-MOST_ROWS).map(event => this.row(event));
    this.rows.append(...added);
    while (this.rows.childElementCount > MOST_ROWS) {
      this.rows.firstElementChild.remove();
    }
    this.toEnd();
    this.actions.arrived(added.length);
  }

  toEnd() {
    this.isMoving = true;
    this.list.scrollTop = this.list.scrollHeight;
    requestAnimationFrame(() => requestAnimationFrame(() => {
      this.isMoving = false;
    }));
  }

  row(event) {
    const row = rowOf(event, this.columns, [], ({element, column}) => {
      element.className = column.width ? 'cell' : 'cell rest';
      element.style.width = column.width ? `${column.width}ch` : '';
    });
    row.querySelectorAll('[role=gridcell]').forEach(cell => cell.setAttribute('role', 'cell'));
    row.event = event;
    return row;
  }

  setPaused(isPaused) {
    if (this.isPaused !== isPaused) {
      this.isPaused = isPaused;
      this.draw();
    }
  }

  continue() {
    this.isPaused = false;
    this.draw();
    this.toEnd();
    this.list.focus();
  }

  end() {
    this.stream?.close();
    this.stop?.abort();
    clearInterval(this.timer);
  }
}
