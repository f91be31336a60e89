// The list of events: only the rows in sight exist. Browsers do not support elements higher than some million pixels, so that the list has
// at most HIGHEST; beyond that, a large jump of the scroll bar is scaled, and small steps are exact.

import {EventIndex} from './event-index.js';
import {isTyping} from './keys.js';
import {rowOf} from './event-row.js';
import {visible} from './texts.js';

export const ROW = 20;
const HIGHEST = 6_000_000;
const AHEAD = 30;
const KEPT = 20_000;

export class EventList {
  /**
   * @param element is filled with the list
   * @param actions `open(event, index)`, `columns(columns)`, `failed(error)`
   */
  constructor(element, actions) {
    this.element = element;
    this.actions = actions;
    this.index = null;
    this.active = -1;
    this.base = 0;
    this.rows = new Map();
    this.words = [];
    this.build();
  }

  build() {
    this.header = document.createElement('div');
    this.header.className = 'columns';
    this.header.setAttribute('role', 'row');
    this.body = document.createElement('div');
    this.body.className = 'rows';
    this.body.setAttribute('role', 'rowgroup');
    this.scroller = document.createElement('div');
    this.scroller.className = 'list';
    this.scroller.tabIndex = 0;
    this.scroller.setAttribute('role', 'grid');
    this.scroller.setAttribute('aria-label', 'Events');
    this.scroller.append(this.header, this.body);
    this.element.replaceChildren(this.scroller);
    this.scroller.addEventListener('scroll', () => this.scrolled(), {passive: true});
    this.scroller.addEventListener('keydown', event => this.key(event));
    this.body.addEventListener('click', event => {
      const row = event.target.closest('[data-index]');
      if (row && !getSelection().toString()) {
        this.activate(Number(row.dataset.index), true);
      }
    });
    new ResizeObserver(() => this.draw()).observe(this.scroller);
  }

  /** Shows the columns; `time`, `age`, `source` and `message` are forms of their own. */
  setColumns(columns) {
    this.columns = columns;
    this.header.replaceChildren(...columns.map((column, place) => this.heading(column, place)));
    this.redraw();
  }

  heading(column, place) {
    const cell = document.createElement('div');
    cell.setAttribute('role', 'columnheader');
    this.size(cell, column);
    const name = document.createElement('button');
    name.type = 'button';
    name.textContent = visible(column.name);
    name.title = 'Drag it, or move with ← and →, widen with + and −, remove with Delete';
    name.addEventListener('keydown', event => this.headingKey(event, place));
    name.addEventListener('pointerdown', () => this.drag(place));
    const edge = document.createElement('span');
    edge.className = 'edge';
    edge.addEventListener('pointerdown', event => this.resize(event, place));
    cell.append(name, edge);
    return cell;
  }

  headingKey(event, place) {
    const columns = this.columns.map(each => ({...each}));
    const move = {ArrowLeft: -1, ArrowRight: 1}[event.key];
    const widen = {'+': 2, '-': -2}[event.key];
    if (move && columns[place + move]) {
      [columns[place], columns[place + move]] = [columns[place + move], columns[place]];
    } else if (widen) {
      columns[place].width = Math.max(3, (columns[place].width || 60) + widen);
    } else if (event.key === 'Delete' && columns.length > 1) {
      columns.splice(place, 1);
    } else {
      return;
    }
    event.preventDefault();
    event.stopPropagation();
    this.actions.columns(columns);
    this.header.children[Math.min(columns.length - 1, place + (move || 0))]?.querySelector('button').focus();
  }

  /** Moves a column to where the pointer is released. */
  drag(place) {
    addEventListener('pointerup', event => {
      const to = [...this.header.children].findIndex(cell => cell.getBoundingClientRect().right > event.clientX);
      const columns = this.columns.map(each => ({...each}));
      if (to !== place && to >= 0) {
        columns.splice(to, 0, ...columns.splice(place, 1));
        this.actions.columns(columns);
      }
    }, {once: true});
  }

  resize(event, place) {
    event.preventDefault();
    const columns = this.columns.map(each => ({...each}));
    const begin = event.clientX;
    const cell = this.header.children[place];
    const character = cell.getBoundingClientRect().width / (columns[place].width || cell.getBoundingClientRect().width / 8);
    const width = columns[place].width || Math.round(cell.getBoundingClientRect().width / 8);
    const moved = move => {
      columns[place].width = Math.max(3, Math.round(width + (move.clientX - begin) / character));
      this.size(cell, columns[place]);
    };
    addEventListener('pointermove', moved);
    addEventListener('pointerup', () => {
      removeEventListener('pointermove', moved);
      this.actions.columns(columns);
    }, {once: true});
  }

  size(cell, column) {
    cell.className = column.width ? 'cell' : 'cell rest';
    cell.style.width = column.width ? `${column.width}ch` : '';
  }

  /**
   * Shows the events of a question.
   *
   * @param selection `where` and `during`
   * @param words the texts to highlight
   */
  show(selection, order, words, signal) {
    this.index = new EventIndex(selection, order, null, signal);
    this.words = words;
    this.active = -1;
    this.base = 0;
    this.scroller.scrollTop = 0;
    this.resized();
    return this.index;
  }

  /** Is called when the number of events has changed. */
  resized() {
    const total = this.index?.total ?? 0;
    this.body.style.height = `${Math.min(HIGHEST, total * ROW)}px`;
    this.scroller.setAttribute('aria-rowcount', String(total + 1));
    this.redraw();
  }

  redraw() {
    this.rows.forEach(row => row.remove());
    this.rows.clear();
    this.draw();
  }

  get visible() {
    return Math.max(1, Math.ceil((this.scroller.clientHeight - this.header.offsetHeight) / ROW));
  }

  /** The pixel of the whole list at the top. */
  get top() {
    return this.scroller.scrollTop + this.base;
  }

  scrolled() {
    const whole = (this.index?.total ?? 0) * ROW;
    const height = Math.min(HIGHEST, whole);
    const jumped = Math.abs(this.scroller.scrollTop - (this.last ?? 0)) > 4 * this.scroller.clientHeight;
    this.last = this.scroller.scrollTop;
    if (whole <= height) {
      this.base = 0;
    } else if (jumped || this.scroller.scrollTop < 2 || this.scroller.scrollTop > height - this.scroller.clientHeight - 2) {
      const share = this.scroller.scrollTop / Math.max(1, height - this.scroller.clientHeight + this.header.offsetHeight);
      this.base = Math.round(share * (whole - height));
    }
    this.draw();
  }

  draw() {
    if (!this.index || !this.columns) {
      return;
    }
    const first = Math.max(0, Math.floor(this.top / ROW) - 4);
    const end = Math.min(this.index.total, Math.floor(this.top / ROW) + this.visible + 4);
    for (const [at, row] of this.rows) {
      if (at < first || at >= end) {
        row.remove();
        this.rows.delete(at);
      }
    }
    for (let at = first; at < end; at++) {
      let row = this.rows.get(at);
      const event = this.index.at(at);
      if (row && row.event === event) {
        row.style.transform = `translateY(${at * ROW - this.base}px)`;
        continue;
      }
      row?.remove();
      row = this.row(event, at);
      this.rows.set(at, row);
      this.body.append(row);
    }
    this.load(first, end);
  }

  async load(first, end) {
    const index = this.index;
    const from = Math.max(0, first - AHEAD);
    const to = end + AHEAD;
    this.wanted = [from, to];
    if (this.isLoading) {
      return;
    }
    this.isLoading = true;
    try {
      // Only what is in sight now is loaded, not everything that was passed on the way.
      for (let wanted = null; this.wanted && this.index === index && wanted !== this.wanted;) {
        wanted = this.wanted;
        const total = index.total;
        if (await index.load(...wanted)) {
          index.keepNear(...wanted, KEPT);
          total === index.total ? this.draw() : this.resized();
        }
      }
    } catch (error) {
      this.actions.failed(error);
    } finally {
      this.isLoading = false;
      if (this.index !== index) {
        this.draw();
      }
    }
  }

  row(event, at) {
    const row = rowOf(event, this.columns, this.words, cell => this.size(cell.element, cell.column));
    row.event = event;
    row.dataset.index = at;
    row.id = `event-${at}`;
    row.setAttribute('aria-rowindex', String(at + 2));
    row.style.transform = `translateY(${at * ROW - this.base}px)`;
    if (at === this.active) {
      row.classList.add('active');
      row.setAttribute('aria-selected', 'true');
    }
    return row;
  }

  key(event) {
    if (isTyping(event) || event.target !== this.scroller || event.ctrlKey || event.metaKey || event.altKey) {
      return;
    }
    const page = this.visible - 2;
    const to = {
      ArrowDown: this.active + 1, j: this.active + 1, ArrowUp: this.active - 1, k: this.active - 1,
      PageDown: this.active + page, PageUp: this.active - page, Home: 0, End: (this.index?.total ?? 1) - 1,
    }[event.key];
    if (to !== undefined) {
      event.preventDefault();
      this.activate(to, this.isOpen);
    } else if (event.key === 'Enter' && this.active >= 0) {
      event.preventDefault();
      this.activate(this.active, true);
    }
  }

  /** Moves to an event; `opens` shows it in full. */
  activate(at, opens) {
    if (!this.index?.total) {
      return;
    }
    this.active = Math.max(0, Math.min(at, this.index.total - 1));
    const y = this.active * ROW - this.base;
    const top = this.scroller.scrollTop;
    const room = this.scroller.clientHeight - this.header.offsetHeight;
    if (y < top || y > top + room - ROW) {
      this.scroller.scrollTop = y < 0 || y > HIGHEST ? this.far(y) : y < top ? y : y - room + ROW;
    }
    this.scroller.setAttribute('aria-activedescendant', `event-${this.active}`);
    this.redraw();
    const event = this.index.at(this.active);
    if (opens && event) {
      this.actions.open(event, this.active);
    }
  }

  far(y) {
    this.base = Math.max(0, Math.min(this.base + y - HIGHEST / 2, this.index.total * ROW - HIGHEST));
    return this.active * ROW - this.base;
  }

  focus() {
    this.scroller.focus();
    if (this.active < 0) {
      this.activate(0, false);
    }
  }

  /** Scrolls to a time. */
  goTo(time) {
    this.activate(this.index.indexOf(time), false);
  }
}
