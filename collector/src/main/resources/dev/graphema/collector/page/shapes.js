// What is drawn, as data: lists of paths, texts and boxes with their places. Nothing here touches a document, so that the page and a
// report draw the same.

import {short} from './texts.js';
import {duration, length, nanos, number, tick} from './times.js';

const SHADES = 5;
const LONGEST_LABEL = 60;

/** The sizes of a time map, in pixels. */
export const MAP = {height: 18, gap: 2, top: 30, line: 34, axis: 18};

const TRAIL = {row: 20, label: 300, after: 80, indent: 13, most: 400};

const path = (style, d) => ({element: 'path', style, d});
const text = (style, x, y, words, anchor = 'start') => ({element: 'text', style, x, y, words, anchor});
const box = (style, x, y, width, height) => ({element: 'rect', style, x, y, width, height});

/** The values of a source; an instance that begins with its service needs no other name. */
export function sourceLabel(row) {
  const values = Object.values(row.by).filter(value => value !== null);
  const last = values[values.length - 1];
  return short(values.length === 2 && last.startsWith(values[0]) ? last : values.length ? values.join(' ') : '(none)', LONGEST_LABEL);
}

/** Where the cells of a map are: `left` of the first, `step` between two columns. */
export function mapPlaces(map, width) {
  const longest = Math.max(6, ...map.rows.map(row => sourceLabel(row).length));
  const left = Math.min(width * 0.3, longest * 7.3 + 10);
  const step = (width - left - 8) / Math.max(1, map.begins.length);
  return {width, left, step, height: MAP.top + map.rows.length * (MAP.height + MAP.gap) + MAP.line + MAP.axis};
}

/**
 * A time map: a row of cells for each source, the line of all events below, marks above.
 *
 * @param marks `time` and `text` of what happened
 */
export function mapShapes(map, places, marks) {
  return [...map.rows.flatMap((row, y) => sourceShapes(map, places, row, y)), ...lineShapes(map, places), ...axisShapes(map, places),
    ...marks.flatMap(markShapes(map, places))];
}

function sourceShapes(map, {left, step}, row, y) {
  const most = Math.max(...row.counts);
  const top = MAP.top + y * (MAP.height + MAP.gap);
  const wide = Math.max(0.8, step - (step > 4 ? 1 : 0));
  const shades = Array.from({length: SHADES}, () => '');
  row.counts.forEach((count, x) => {
    if (count > 0) {
      shades[Math.min(SHADES - 1, Math.floor(SHADES * count / most * 0.999))] += `M${place(left + x * step)} ${top}h${place(wide)}v${MAP.height}h${place(-wide)}z`;
    }
  });
  return [text('label', left - 8, top + 13, sourceLabel(row), 'end'),
    ...shades.map((d, shade) => path(`shade${shade}`, d)).filter(shape => shape.d),
    ...barShapes(map, {left, step}, row.warnings, 'warnings', top), ...barShapes(map, {left, step}, row.errors, 'errors', top)];
}

const place = length => Math.round(length * 10) / 10;

function barShapes(map, {left, step}, counts, kind, top) {
  const most = Math.max(1, ...map.rows.flatMap(row => row[kind]));
  const wide = place(Math.max(1.4, Math.min(step * 0.42, 7)));
  const inset = kind === 'errors' ? step / 2 : step / 2 - wide;
  const bars = counts.map((count, x) => {
    const high = place(4 + (MAP.height - 6) * Math.sqrt(count / most));
    return count > 0 ? `M${place(left + x * step + inset)} ${top + MAP.height}v${-high}h${wide}v${high}z` : '';
  }).join('');
  return bars ? [path(kind === 'errors' ? 'bar error' : 'bar warn', bars)] : [];
}

function lineShapes(map, {left, step, width}) {
  const base = MAP.top + map.rows.length * (MAP.height + MAP.gap) + MAP.line;
  const most = Math.max(1, ...map.all.counts);
  const x = index => place(left + (index + 0.5) * step);
  const y = count => place(base - (MAP.line - 12) * count / most);
  return [text('label dim', left - 8, base, 'all', 'end'), path('base', `M${left} ${base}H${width - 8}`),
    path('line', map.all.counts.map((count, index) => `${index ? 'L' : 'M'}${x(index)} ${y(count)}`).join('')),
    text('axis', width - 8, base - MAP.line + 9, `most ${number(most)}`, 'end'),
    ...map.spikes.flatMap((isSpike, index) => isSpike ? [path('spike', `M${x(index)} ${y(map.all.counts[index]) - 3}l-4 -6h8z`)] : [])];
}

function axisShapes(map, {left, step, height, width}) {
  const every = Math.max(1, Math.ceil(70 / step));
  const nice = [1, 2, 3, 5, 6, 10, 12, 15, 20, 30, 60, 120].find(each => each >= every) ?? every;
  return map.begins.flatMap((begin, x) => x % nice || left + x * step > width - 60 ? []
    : [text('axis', left + x * step, height - 4, tick(begin, duration(map.step)))]);
}

function markShapes(map, {left, step, height, width}) {
  const free = [0, 0];
  return mark => {
    const share = Number(nanos(mark.time) - nanos(map.begins[0])) / (duration(map.step) * 1e6);
    if (share < 0 || share > map.begins.length) {
      return [];
    }
    const x = left + share * step;
    const wide = mark.text.length * 6.4 + 20;
    const isLeft = x + wide > width;
    const begin = isLeft ? x - wide : x;
    const level = free.findIndex(end => end <= begin);
    const line = path('mark', `M${place(x)} ${MAP.top - 4}V${height - MAP.axis}`);
    if (level < 0) {
      return [line];
    }
    free[level] = begin + wide;
    return [line, text('mark-text', isLeft ? x - 3 : x + 3, 11 + level * 12, `▾ ${mark.text}`, isLeft ? 'end' : 'start')];
  };
}

/** A bar for each count; the part that is errors is marked. */
export function courseShapes(counts, errors, {width, height}) {
  const most = Math.max(1, ...counts);
  const step = width / Math.max(1, counts.length);
  const bars = values => values.map((count, x) => {
    const high = count ? place(Math.max(1, height * count / most)) : 0;
    return high ? `M${place(x * step)} ${height}v${-high}h${place(Math.max(0.8, step - 0.6))}v${high}z` : '';
  }).join('');
  return [path('base', `M0 ${height - 0.5}H${width}`), path('shade2', bars(counts)), path('bar error', bars(errors))];
}

/** How far the clock of a service is ahead in a trail, in nanoseconds. */
function ahead(trail, where) {
  const time = trail.clocks_ahead?.[where];
  return time ? BigInt(Math.round(duration(time) * 1e6)) : 0n;
}

/** The corrected begin of a trail, and its length in milliseconds. */
export function trailScale(trail) {
  const begins = trail.operations.map(each => nanos(each.from) - ahead(trail, each.where));
  const ends = trail.operations.map((each, i) => begins[i] + BigInt(Math.round((each.elapsed ? duration(each.elapsed) : 0) * 1e6)));
  const times = trail.events.map(event => nanos(event.time) - ahead(trail, event.instance ?? event.service));
  const all = [...begins, ...ends, ...times];
  const begin = all.reduce((least, each) => each < least ? each : least);
  const end = all.reduce((most, each) => each > most ? each : most);
  return {begin, millis: Math.max(0.001, Number(end - begin) / 1e6)};
}

/**
 * One request: a row for each operation.
 *
 * @returns `width`, `height`, the shapes of the `axis`, and of each of the `operations` its `span`, `failed`, `band` and `shapes`
 */
export function trailShapes(trail, room) {
  const {row, after, indent} = TRAIL;
  const label = Math.min(TRAIL.label, Math.max(120, Math.round(room * 0.35)));
  const {begin, millis} = trailScale(trail);
  const width = Math.max(200, room - label - after);
  const shown = trail.operations.slice(0, TRAIL.most);
  const height = shown.length * row + 18;
  const parts = width < 330 ? [0, 0.5, 1] : [0, 0.25, 0.5, 0.75, 1];
  const axis = parts.flatMap(part => [path('base', `M${label + width * part} 0V${height - 16}`),
    text('axis', label + width * part, height - 3, length(millis * part), part === 1 ? 'end' : 'middle')]);
  const operations = shown.map((each, y) => {
    const left = label + width * Number(nanos(each.from) - ahead(trail, each.where) - begin) / 1e6 / millis;
    const wide = each.elapsed ? Math.max(2, width * duration(each.elapsed) / millis) : 2;
    const base = y * row + 14;
    const depth = Math.min(each.depth, 16);
    return {span: each.span, failed: each.failed, band: box('hit', 0, y * row, label + width + after, row), shapes: [
      text('label', depth * indent, base, short(`${each.where} ${each.name ?? '(not ended)'}`, Math.floor((label - depth * indent) / 7.3) - 2)),
      box('span', left, y * row + 4, wide, row - 8), ...each.failed ? [text('cross', left - 12, base, '✕')] : [],
      text('axis', left + wide + 4, base, each.elapsed ? length(duration(each.elapsed)) : '')]};
  });
  return {width: label + width + after, height, axis, operations, more: trail.operations.length - shown.length};
}
