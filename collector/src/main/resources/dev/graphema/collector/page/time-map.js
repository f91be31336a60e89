// The time map: a row for each source, a column for each step of time. The darkness of a cell is its number of events, relative to the row;
// bars are errors, hollow bars warnings. Below is the line of all events, above are marks such as releases.

import {html, nothing, render, svg} from 'lit-html';
import {drawn} from './drawing.js';
import {MAP, mapPlaces, mapShapes, sourceLabel} from './shapes.js';
import {counted, date, duration, length, nanos, number, rfc, tick} from './times.js';

export class TimeMap {
  /**
   * @param element is filled with the map
   * @param actions `narrow(selection)`, `compare(selection, with)`, `rows(names)`, `go(time)`
   */
  constructor(element, actions) {
    this.element = element;
    this.actions = actions;
    this.map = null;
    this.marks = [];
    this.cursor = null;
    this.selected = null;
    this.first = null;
    this.isTable = false;
    new ResizeObserver(() => this.draw()).observe(element);
  }

  /**
   * @param map the answer to a question for a map
   * @param marks `time` and `text` of what happened
   */
  show(map, marks, {isPartial = false} = {}) {
    this.map = map;
    this.marks = marks;
    this.isPartial = isPartial;
    this.selected = null;
    this.cursor = null;
    this.draw();
  }

  get rows() {
    return this.map.rows;
  }

  draw() {
    if (!this.map) {
      return;
    }
    if (!this.map.begins.length) {
      render(nothing, this.element);
      return;
    }
    this.places = mapPlaces(this.map, Math.max(240, this.element.clientWidth));
    render(this.template(), this.element);
  }

  template() {
    const {width, height} = this.places;
    return html`
      <div class="map-head">
        <span>darkness: events in ${length(this.stepMillis)}, relative to each row's most; <span class="key error">▮</span> errors
          <span class="key warn">▯</span> warnings${this.isPartial ? '; partial, still reading' : ''}</span>
        <span class="map-tools">
          <label>rows <input class="short" .value=${this.byText ?? ''} spellcheck="false" size="18"
            @change=${event => this.actions.rows(event.target.value)}></label>
          <button type="button" aria-pressed=${this.isTable} @click=${() => { this.isTable = !this.isTable; this.draw(); }}>as a table</button>
        </span>
      </div>
      ${this.isTable ? this.table() : html`
      <div class="map" tabindex="0" role="application" aria-roledescription="time map" aria-label=${this.summary()}
          @keydown=${event => this.key(event)} @pointerdown=${event => this.press(event)} @pointermove=${event => this.hover(event)}
          @pointerleave=${() => this.leave()}>
        <svg width=${width} height=${height} viewBox="0 0 ${width} ${height}" aria-hidden="true">
          ${mapShapes(this.map, this.places, this.marks).map(drawn)} ${this.frame(this.first, 'first')} ${this.frame(this.selected, 'selected')}
          ${this.pointer()}
        </svg>
      </div>`}
      <div class="map-foot">
        <span class="cell-text" role="status">${this.cursor ? this.cellText(this.cursor) : this.map.others
          ? `${number(this.map.others)} more sources are not shown` : ' '}</span>
        ${this.selected ? this.tools() : nothing}
      </div>`;
  }

  get stepMillis() {
    return duration(this.map.step);
  }

  summary() {
    const sum = values => values.reduce((all, value) => all + value, 0);
    const {counts, errors, warnings} = this.map.all;
    return `Time map of ${counted(this.rows.length, 'source')}: ${counted(sum(counts), 'event')}, ${counted(sum(warnings), 'warning')},`
      + ` ${counted(sum(errors), 'error')}. Arrow keys move between cells.`;
  }

  frame(selection, kind) {
    if (!selection) {
      return nothing;
    }
    const {left, step} = this.places;
    const y = MAP.top + selection.rows[0] * (MAP.height + MAP.gap) - 1;
    return svg`<rect class="frame ${kind}" x=${left + selection.steps[0] * step - 1} y=${y}
      width=${(selection.steps[1] - selection.steps[0] + 1) * step + 1} height=${(selection.rows[1] - selection.rows[0] + 1) * (MAP.height + MAP.gap)}></rect>`;
  }

  pointer() {
    if (!this.cursor) {
      return nothing;
    }
    const {left, step} = this.places;
    return svg`<rect class="cursor" x=${left + this.cursor.step * step - 1} y=${MAP.top + this.cursor.row * (MAP.height + MAP.gap) - 1}
      width=${step + 1} height=${MAP.height + 2}></rect>`;
  }

  cellText({row, step}) {
    const source = this.rows[row];
    const begin = this.map.begins[step];
    const end = rfc(nanos(begin) + BigInt(Math.round(this.stepMillis * 1e6)));
    const isMarked = this.marks.filter(mark => mark.time >= begin && mark.time < end).map(mark => `; ${mark.text}`).join('');
    return `${date(begin)} ${tick(begin, Math.min(this.stepMillis, 60_000))} – ${tick(end, Math.min(this.stepMillis, 60_000))}, ${sourceLabel(source)}: `
      + `${counted(source.counts[step], 'event')}, ${counted(source.warnings[step], 'warning')}, ${counted(source.errors[step], 'error')}${isMarked}`;
  }

  tools() {
    const selection = this.selected;
    const compare = kind => () => this.actions.compare(this.described(selection), kind, this.first && this.described(this.first));
    return html`<span class="selection" role="group" aria-label="Selection">
      <button type="button" class="main" @click=${() => this.actions.narrow(this.described(selection))}>narrow to ${this.selectionText(selection)}</button>
      compare with
      <button type="button" @click=${compare('before')}>the time before</button>
      <button type="button" @click=${compare('rest')}>the rest of its rows</button>
      ${this.first ? html`<button type="button" @click=${compare('first')}>the first rectangle</button>`
        : html`<button type="button" @click=${() => { this.first = selection; this.selected = null; this.draw(); }}>a second rectangle</button>`}
      <button type="button" @click=${() => this.clear()}>no selection</button></span>`;
  }

  selectionText({steps, rows}) {
    const count = rows[1] - rows[0] + 1;
    const begin = this.map.begins[steps[0]];
    return `${tick(begin, 60_000)}, ${length((steps[1] - steps[0] + 1) * this.stepMillis)}`
      + (count === this.rows.length ? '' : count === 1 ? `, ${sourceLabel(this.rows[rows[0]])}` : `, ${count} rows`);
  }

  /** Returns the times and the values of the rows of a selection; `rows` is null for all rows. */
  described({steps, rows}) {
    const from = this.map.begins[steps[0]];
    const last = nanos(this.map.begins[steps[1]]) + BigInt(Math.round(this.stepMillis * 1e6));
    const isAll = rows[0] === 0 && rows[1] === this.rows.length - 1;
    return {from, to: rfc(last), rows: isAll ? null : this.rows.slice(rows[0], rows[1] + 1).map(row => row.by)};
  }

  clear() {
    this.selected = null;
    this.first = null;
    this.draw();
  }

  /** Returns the cell at a pointer; null if there is none. */
  cellAt(event) {
    const bounds = this.element.querySelector('svg').getBoundingClientRect();
    const {left, step} = this.places;
    const x = Math.floor((event.clientX - bounds.left - left) / step);
    const y = Math.floor((event.clientY - bounds.top - MAP.top) / (MAP.height + MAP.gap));
    return {step: Math.max(0, Math.min(x, this.map.begins.length - 1)), row: Math.max(0, Math.min(y, this.rows.length - 1)), isInside: x >= 0 && y >= 0};
  }

  hover(event) {
    const cell = this.cellAt(event);
    if (this.pressed) {
      this.extend(this.pressed, cell);
    }
    this.cursor = cell;
    this.draw();
  }

  leave() {
    if (!this.pressed && !this.element.contains(document.activeElement)) {
      this.cursor = null;
      this.draw();
    }
  }

  press(event) {
    const cell = this.cellAt(event);
    if (!cell.isInside || event.button !== 0) {
      return;
    }
    event.preventDefault();
    this.element.querySelector('.map').focus();
    this.pressed = cell;
    this.extend(cell, cell);
    const moved = move => this.hover(move);
    addEventListener('pointermove', moved);
    addEventListener('pointerup', () => {
      this.pressed = null;
      removeEventListener('pointermove', moved);
      this.draw();
    }, {once: true});
    this.draw();
  }

  extend(one, other) {
    const sorted = (a, b) => a < b ? [a, b] : [b, a];
    this.selected = {steps: sorted(one.step, other.step), rows: sorted(one.row, other.row)};
  }

  key(event) {
    const move = {ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1]}[event.key];
    if (move && !event.ctrlKey && !event.metaKey && !event.altKey) {
      event.preventDefault();
      const from = this.cursor ?? {step: 0, row: 0};
      const to = this.cursor ? {
        step: Math.max(0, Math.min(from.step + move[0], this.map.begins.length - 1)),
        row: Math.max(0, Math.min(from.row + move[1], this.rows.length - 1)),
      } : from;
      if (event.shiftKey) {
        this.anchor ??= from;
        this.extend(this.anchor, to);
      } else {
        this.anchor = null;
      }
      this.cursor = to;
    } else if (event.key === 'Enter') {
      event.preventDefault();
      const cell = this.cursor ?? {step: 0, row: 0};
      const selection = this.selected ?? {steps: [cell.step, cell.step], rows: [cell.row, cell.row]};
      this.actions.narrow(this.described(selection));
      return;
    } else if (event.key === 'c' && this.selected) {
      event.preventDefault();
      this.actions.compare(this.described(this.selected), 'before');
      return;
    } else if (event.key === 'Escape' && (this.selected || this.first)) {
      event.preventDefault();
      this.clear();
    } else {
      return;
    }
    this.draw();
  }

  focus() {
    this.element.querySelector('.map')?.focus();
    this.cursor ??= {step: 0, row: 0};
    this.draw();
  }

  /** The same numbers: a row for each step that has events. */
  table() {
    const cell = (row, step) => {
      const [count, errors, warnings] = [row.counts[step], row.errors[step], row.warnings[step]];
      return count ? `${number(count)}${errors ? `, ${counted(errors, 'error')}` : ''}${warnings ? `, ${counted(warnings, 'warning')}` : ''}` : '';
    };
    return html`<div class="scroll" tabindex="0" role="region" aria-label="The time map as a table"><table>
      <caption>Events in steps of ${length(this.stepMillis)}</caption>
      <thead><tr><th scope="col">from</th>${this.rows.map(row => html`<th scope="col">${sourceLabel(row)}</th>`)}<th scope="col">all</th></tr></thead>
      <tbody>${this.map.begins.map((begin, step) => this.map.all.counts[step] ? html`<tr>
        <th scope="row">${tick(begin, this.stepMillis)}</th>${this.rows.map(row => html`<td>${cell(row, step)}</td>`)}
        <td>${cell(this.map.all, step)}${this.map.spikes[step] ? ' ▲' : ''}</td></tr>` : nothing)}</tbody></table></div>`;
  }
}
