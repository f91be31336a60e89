// Where the events of a question are, so that any of a million can be shown without reading those before it. The time map of all events
// has the number of events in each step; the steps, in the order of the list, are the chunks that are loaded as they come into sight.
// A step with too many events is divided by a further question.

import {ask} from './api.js';
import {duration, nanos, rfc} from './times.js';

const MOST_STEPS = 400;
const LARGE = 1_000;
const SMALL = 200;
const SHORTEST_STEP = 1_000_000n;

export class EventIndex {
  /**
   * @param selection `where` and `during` of the question
   * @param order `oldest` or `newest` first
   * @param fields the values that are loaded of each event; null for all
   * @param signal ends all requests
   */
  constructor(selection, order, fields, signal) {
    this.selection = selection;
    this.order = order;
    this.fields = fields;
    this.signal = signal;
    this.chunks = [];
    this.total = 0;
    this.isComplete = false;
  }

  /** Sets the first rows, which are known before the index is. */
  first(events) {
    if (!this.chunks.length) {
      this.chunks = [{first: 0, count: events.length, rows: events}];
      this.total = events.length;
    }
  }

  /** Sets the steps from the time map of all events. */
  steps(map) {
    const known = this.chunks.length === 1 && !this.chunks[0].from ? this.chunks[0].rows : null;
    this.chunks = this.chunksOf(map, this.selection.during || {});
    this.isComplete = true;
    this.renumber();
    if (known && this.chunks.length) {
      this.seed(known);
    }
  }

  /** Keeps the rows that were shown first, as far as they fill chunks. */
  seed(rows) {
    let at = 0;
    for (const chunk of this.chunks) {
      if (at + chunk.count > rows.length) {
        break;
      }
      chunk.rows = rows.slice(at, at + chunk.count);
      at += chunk.count;
    }
  }

  chunksOf(map, during) {
    const step = BigInt(Math.round(duration(map.step) * 1e6));
    const first = during.from ? nanos(during.from) : null;
    const end = during.to ? nanos(during.to) : null;
    const chunks = [];
    map.begins.forEach((begin, i) => {
      const count = map.kept[i];
      if (count === 0) {
        return;
      }
      const from = nanos(begin);
      const to = i + 1 < map.begins.length ? nanos(map.begins[i + 1]) : from + step;
      chunks.push({from: max(from, first), to: min(to, end), count, rows: null, loading: null});
    });
    if (this.order === 'newest') {
      chunks.reverse();
    }
    return merged(chunks);
  }

  renumber() {
    this.total = 0;
    for (const chunk of this.chunks) {
      chunk.first = this.total;
      this.total += chunk.count;
    }
  }

  /** Returns the event at an index; null if it is not loaded. */
  at(index) {
    const chunk = this.chunkAt(index);
    return chunk?.rows?.[index - chunk.first] ?? null;
  }

  chunkAt(index) {
    let low = 0;
    let high = this.chunks.length - 1;
    while (low <= high) {
      const middle = (low + high) >> 1;
      const chunk = this.chunks[middle];
      if (index < chunk.first) {
        high = middle - 1;
      } else if (index >= chunk.first + chunk.count) {
        low = middle + 1;
      } else {
        return chunk;
      }
    }
    return null;
  }

  /** Loads the events of a range; resolves to whether anything was loaded. */
  async load(from, to) {
    const wanted = this.chunks.filter(chunk => chunk.first < to && chunk.first + chunk.count > from && !chunk.rows);
    const loads = wanted.map(chunk => chunk.loading ??= this.loadChunk(chunk));
    await Promise.all(loads);
    return loads.length > 0;
  }

  async loadChunk(chunk) {
    try {
      if (chunk.count > LARGE && chunk.to - chunk.from > SHORTEST_STEP) {
        await this.divide(chunk);
        return;
      }
      // More than counted: events may have arrived since.
      const answer = await ask(this.during(chunk), {kind: 'events', order: this.order, limit: chunk.count + SMALL}, this.options());
      const rows = this.order === 'newest' ? answer.rows.reverse() : answer.rows;
      chunk.rows = rows;
      if (rows.length !== chunk.count) {
        chunk.count = rows.length;
        this.renumber();
      }
    } finally {
      chunk.loading = null;
    }
  }

  async divide(chunk) {
    const map = await ask(this.during(chunk), {kind: 'map', most: MOST_STEPS, by: [], shown: 0}, {signal: this.signal});
    const finer = this.chunksOf(map, {from: rfc(chunk.from), to: rfc(chunk.to)});
    this.chunks.splice(this.chunks.indexOf(chunk), 1, ...finer);
    this.renumber();
  }

  during(chunk) {
    return {where: this.selection.where, during: {from: rfc(chunk.from), to: rfc(chunk.to)}};
  }

  options() {
    return {signal: this.signal, fields: this.fields || undefined};
  }

  /** Forgets events that are far from a range, so that scrolling a million does not keep a million. */
  keepNear(from, to, most) {
    for (const chunk of this.chunks) {
      const distance = Math.max(chunk.first - to, from - chunk.first - chunk.count);
      if (chunk.rows && chunk.from && distance > most) {
        chunk.rows = null;
      }
    }
  }

  /** Returns the index of the first event at or behind a time, in the order of the list. */
  indexOf(time) {
    const wanted = nanos(time);
    const chunk = this.chunks.find(each => this.order === 'newest' ? each.from <= wanted : each.to > wanted);
    if (!chunk) {
      return Math.max(0, this.total - 1);
    }
    const row = chunk.rows?.findIndex(event => this.order === 'newest' ? nanos(event.time) <= wanted : nanos(event.time) >= wanted) ?? 0;
    return chunk.first + Math.max(0, row);
  }
}

function max(one, other) {
  return other !== null && other > one ? other : one;
}

function min(one, other) {
  return other !== null && other < one ? other : one;
}

/** Joins successive small chunks, which are loaded at once. */
function merged(chunks) {
  const joined = [];
  for (const chunk of chunks) {
    const last = joined[joined.length - 1];
    if (last && last.count + chunk.count <= SMALL) {
      last.count += chunk.count;
      last.from = chunk.from < last.from ? chunk.from : last.from;
      last.to = chunk.to > last.to ? chunk.to : last.to;
    } else {
      joined.push(chunk);
    }
  }
  return joined;
}
