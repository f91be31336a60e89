// Requests to the server that has sent this page.

/** A problem document (RFC 9457). `column` is the place in a question, counted from 1, or 0. */
export class Problem extends Error {
  constructor(document, status) {
    super(document.detail || document.title || `the server answered with status ${status}`);
    this.title = document.title || 'The request failed';
    this.status = status;
    this.column = document.column || 0;
  }
}

async function problem(response) {
  let document = {};
  try {
    document = await response.json();
  } catch {
    // a proxy may answer with something else
  }
  return new Problem(document, response.status);
}

/** The server answers few questions of one user at once: the others wait here. */
const MOST_AT_ONCE = 4;
const MOST_TRIES = 8;
const waiting = [];
let inProgress = 0;

async function turn() {
  if (inProgress >= MOST_AT_ONCE) {
    await new Promise(resolve => waiting.push(resolve));
  } else {
    inProgress++;
  }
}

function done() {
  const next = waiting.shift();
  if (next) {
    next();
  } else {
    inProgress--;
  }
}

/** Sends a request, again if the server is busy. */
async function fetched(path, request) {
  for (let tries = 1; ; tries++) {
    const response = await fetch(path, {...request, credentials: 'same-origin'});
    if (response.status !== 429 || tries === MOST_TRIES || !path.startsWith('/questions')) {
      if (!response.ok) {
        throw await problem(response);
      }
      return response;
    }
    await new Promise(resolve => setTimeout(resolve, 1000 * Number(response.headers.get('Retry-After') ?? 1)));
  }
}

function send(method, path, body, type, signal) {
  return fetched(path, {method, body, signal, headers: body === undefined ? {} : {'Content-Type': type}});
}

export async function get(path, signal) {
  return (await send('GET', path, undefined, null, signal)).json();
}

export async function post(path, value, signal) {
  return (await send('POST', path, JSON.stringify(value), 'application/json', signal)).json();
}

export async function postText(path, text, signal) {
  return (await send('POST', path, text, 'text/plain', signal)).json();
}

export async function remove(path) {
  return (await send('DELETE', path)).json();
}

/** Returns the parts of a question as people type it. */
export function read(text, zone, signal) {
  return postText(`/questions/reading?zone=${encodeURIComponent(zone)}`, text, signal);
}

/**
 * Asks a question.
 *
 * @param selection `where` and `during` of a typed question that was read
 * @param ask what is wanted, as documented for the JSON of questions
 * @param options `signal`; `within`: how long may be read for the answer, which then states that it was stopped; `progress`: is called with
 *     the share that was read
 */
export async function ask(selection, ask, {signal, within, progress, fields} = {}) {
  const question = {during: selection.during || {}, ask};
  if (selection.where) {
    question.where = selection.where;
  }
  if (fields) {
    question.fields = fields;
  }
  const path = within ? `/questions?within=${within}` : '/questions';
  await turn();
  try {
    if (!progress) {
      return await post(path, question, signal);
    }
    const response = await fetched(path, {
      method: 'POST',
      body: JSON.stringify(question),
      signal,
      headers: {'Content-Type': 'application/json', 'Accept': 'text/event-stream'},
    });
    return await streamed(response, progress);
  } finally {
    done();
  }
}

/** Reads server-sent events up to the one with the answer. */
async function streamed(response, progress) {
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader();
  let text = '';
  for (;;) {
    const {value, done} = await reader.read();
    if (done) {
      throw new Error('the server ended before the answer was complete: ask again');
    }
    text += value;
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const lines = text.slice(0, end).split('\n');
      text = text.slice(end + 2);
      const data = lines.filter(line => line.startsWith('data: ')).map(line => line.slice(6)).join('\n');
      if (lines[0] === 'event: answer') {
        reader.cancel();
        return JSON.parse(data);
      }
      if (lines[0] === 'event: progress') {
        const {bytes, totalBytes} = JSON.parse(data);
        progress(totalBytes > 0 ? Math.min(1, bytes / totalBytes) : 0);
      }
    }
  }
}
