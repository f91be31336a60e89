// Times have nine digits of a second, which numbers of JavaScript cannot hold: they are compared as BigInt nanoseconds since 1970.

const NANOS = 1_000_000n;
const local = Intl.DateTimeFormat().resolvedOptions().timeZone;
let zone = local;

export function setZone(name) {
  zone = name || local;
}

export function currentZone() {
  return zone;
}

/** Parses RFC 3339 in UTC. */
export function nanos(text) {
  const [seconds, fraction = ''] = text.replace('Z', '').split('.');
  return BigInt(Date.parse(`${seconds}Z`)) * NANOS + BigInt(fraction.padEnd(9, '0').slice(0, 9) || 0);
}

/** Formats as RFC 3339 in UTC. */
export function rfc(epochNanos) {
  let millis = epochNanos / NANOS;
  let rest = epochNanos % NANOS;
  if (rest < 0n) {
    millis -= 1n;
    rest += NANOS;
  }
  return `${new Date(Number(millis)).toISOString().slice(0, 23)}${rest.toString().padStart(6, '0')}Z`;
}

function millis(time) {
  return typeof time === 'bigint' ? Number(time / NANOS) : typeof time === 'number' ? time : Date.parse(time);
}

const formats = new Map();

function format(key, options) {
  const name = `${key} ${zone}`;
  if (!formats.has(name)) {
    formats.set(name, new Intl.DateTimeFormat(['date', 'day'].includes(key) ? undefined : 'en-GB', {...options, timeZone: zone}));
  }
  return formats.get(name);
}

/** A date in the form of the reader's language. */
export function date(time) {
  return format('date', {day: 'numeric', month: 'short', year: 'numeric'}).format(millis(time));
}

/** Hours, minutes and seconds. */
export function clock(time) {
  return format('clock', {hour: '2-digit', minute: '2-digit', second: '2-digit', hourCycle: 'h23'}).format(millis(time));
}

/** Hours, minutes, seconds and milliseconds. */
export function preciseClock(time) {
  return `${clock(time)}.${(((millis(time) % 1000) + 1000) % 1000).toString().padStart(3, '0')}`;
}

/** Hours and minutes; with seconds for short steps, with the date for long ones. */
export function tick(time, stepMillis) {
  if (stepMillis >= 86_400_000) {
    return format('day', {day: '2-digit', month: '2-digit'}).format(millis(time));
  }
  return stepMillis < 60_000 ? clock(time) : clock(time).slice(0, 5);
}

/** A time as people type it in a question, with its offset, so that it means the same to everybody. */
export function typed(time) {
  const parts = Object.fromEntries(format('typed', {
    year: 'numeric', month: '2-digit', day: '2-digit', hour: '2-digit', minute: '2-digit', second: '2-digit', hourCycle: 'h23',
    timeZoneName: 'longOffset',
  }).formatToParts(millis(time)).map(part => [part.type, part.value]));
  const offset = parts.timeZoneName.replace('GMT', '').replace('+00:00', '') || 'Z';
  const part = millis(time) % 1000;
  const fraction = part ? `.${((part + 1000) % 1000).toString().padStart(3, '0')}` : '';
  const seconds = parts.second === '00' && !fraction ? '' : `:${parts.second}${fraction}`;
  return `${parts.year}-${parts.month}-${parts.day}T${parts.hour}:${parts.minute}${seconds}${offset}`;
}

const UNITS = [['d', 86_400_000], ['h', 3_600_000], ['m', 60_000], ['s', 1000]];

/** How long ago: "3 d ago". */
export function age(time, now = Date.now()) {
  const passed = now - millis(time);
  const size = Math.abs(passed);
  const unit = UNITS.find(each => size >= each[1]) || ['s', 1000];
  const text = `${Math.floor(size / unit[1])} ${unit[0]}`;
  return passed < 0 ? `in ${text}` : `${text} ago`;
}

/** Parses an ISO 8601 duration of days, hours, minutes and seconds, in milliseconds. */
export function duration(text) {
  const found = /^(-?)P(?:(-?[\d.]+)D)?(?:T(?:(-?[\d.]+)H)?(?:(-?[\d.]+)M)?(?:(-?[\d.]+)S)?)?$/.exec(text);
  if (!found) {
    return NaN;
  }
  const [, sign, days = 0, hours = 0, minutes = 0, seconds = 0] = found;
  const sum = days * 86_400_000 + hours * 3_600_000 + minutes * 60_000 + seconds * 1000;
  return sign ? -sum : sum;
}

/** "250 ms", "1.5 s", "3 min", "2 h". */
export function length(milliseconds) {
  const size = Math.abs(milliseconds);
  const round = value => Number(value.toPrecision(3)).toString();
  if (size === 0) {
    return '0';
  }
  if (size < 1) {
    return `${round(milliseconds * 1000)} µs`;
  }
  if (size < 1000) {
    return `${round(milliseconds)} ms`;
  }
  if (size < 60_000) {
    return `${round(milliseconds / 1000)} s`;
  }
  return size < 3_600_000 ? `${round(milliseconds / 60_000)} min` : `${round(milliseconds / 3_600_000)} h`;
}

const numbers = new Intl.NumberFormat();

export function number(value) {
  return numbers.format(value);
}

/** "1 event", "2,310 events". */
export function counted(count, noun) {
  return `${number(count)} ${noun}${count === 1 ? '' : 's'}`;
}
