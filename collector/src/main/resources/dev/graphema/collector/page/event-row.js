// A row for an event, with a cell for each column. All texts are set as text, never as markup.

import {valueOf, values} from './conditions.js';
import {cut, visible} from './texts.js';
import {age, date, duration, length, preciseClock} from './times.js';

const USUAL_WIDTHS = {time: 13, level: 9, age: 10, source: 12, service: 10, instance: 12, logger: 28, thread: 14};
const MARKS = {warn: '▲', error: '■', fatal: '■'};
const MOST_FIELDS = 12;

/** Parses "time,level:8,message" into columns with a name and a width in characters; 0 for the rest of the line. */
export function columnsOf(text) {
  return text.split(',').filter(each => each).map(each => {
    const [, name, width] = /^(.*?)(?::(\d+))?$/.exec(each);
    return {name, width: width ? Number(width) : name === 'message' ? 0 : USUAL_WIDTHS[name] ?? 14};
  });
}

export function columnsText(columns) {
  return columns.map(({name, width}) => width === (name === 'message' ? 0 : USUAL_WIDTHS[name] ?? 14) ? name : `${name}:${width}`).join(',');
}

/** Builds the row; `sized` sets the width of a cell. A missing event has an empty row. */
export function rowOf(event, columns, words, sized) {
  const row = document.createElement('div');
  row.setAttribute('role', 'row');
  row.className = event ? `event ${event.level ?? ''}` : 'event missing';
  for (const column of columns) {
    const cell = document.createElement('div');
    cell.setAttribute('role', 'gridcell');
    sized({element: cell, column});
    if (event) {
      fill(cell, column, event, words);
    }
    row.append(cell);
  }
  return row;
}

function fill(cell, column, event, words) {
  switch (column.name) {
    case 'time':
      cell.textContent = event.time ? preciseClock(event.time) : '';
      cell.title = event.time ? `${date(event.time)}, ${event.time}, ${age(event.time)}` : 'no time';
      break;
    case 'age':
      cell.textContent = event.time ? age(event.time) : '';
      cell.classList.add('number');
      break;
    case 'level':
      cell.classList.add('level');
      cell.textContent = `${MARKS[event.level] ?? ' '} ${event.level ?? ''}`;
      break;
    case 'message':
      message(cell, event, words);
      break;
    default: {
      const value = valueOf(event, column.name);
      cell.textContent = shown(value);
      cell.classList.toggle('number', typeof value === 'number');
    }
  }
}

function message(cell, event, words) {
  highlighted(cell, cut(event.message ?? ''), words);
  if (event.failure) {
    const failure = document.createElement('span');
    failure.className = 'failure';
    failure.textContent = cut(`${event.failure.type?.split('.').pop()}: ${event.failure.message ?? ''}`);
    cell.append(' ', failure);
  }
  let room = MOST_FIELDS;
  for (const [name, value] of values({fields: event.fields})) {
    if (name.startsWith('collector.')) {
      continue;
    }
    if (room-- === 0) {
      break;
    }
    const label = document.createElement('span');
    label.className = 'name';
    label.textContent = `${visible(name.slice(0, 80))}=`;
    cell.append(' ', label);
    highlighted(cell, shown(value), words);
  }
}

export function shown(value) {
  if (value === null || value === undefined) {
    return '';
  }
  if (typeof value === 'string' && /^-?PT[\d.]/.test(value) && !Number.isNaN(duration(value))) {
    return length(duration(value));
  }
  return cut(typeof value === 'object' ? JSON.stringify(value) : String(value));
}

function highlighted(cell, text, words) {
  if (!words.length) {
    cell.append(text);
    return;
  }
  const lower = text.toLowerCase();
  let at = 0;
  while (at < text.length) {
    let next = -1;
    let word = '';
    for (const each of words) {
      const found = lower.indexOf(each, at);
      if (found >= 0 && (next < 0 || found < next)) {
        next = found;
        word = each;
      }
    }
    if (next < 0) {
      break;
    }
    const mark = document.createElement('mark');
    mark.textContent = text.slice(next, next + word.length);
    cell.append(text.slice(at, next), mark);
    at = next + word.length;
  }
  cell.append(text.slice(at));
}
