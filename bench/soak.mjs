// Uses the program for so many minutes as many users would at once: packets are made, files are
// uploaded, pages turned, looked at and exported, packets deleted, workers killed. At the end all
// packets are deleted, and memory and files are to be back where they were.
//
//   node bench/soak.mjs FOLDER [MINUTES]
//
// FOLDER has the files that are uploaded. It needs `make build`, and Linux for /proc.
import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, statSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const [folder, minutes = '60'] = process.argv.slice(2);
const files = readdirSync(folder).map((name) => ({ name, data: readFileSync(join(folder, name)) }));
const data = mkdtempSync(join(tmpdir(), 'dorbin-soak-'));
const base = 'http://127.0.0.1:8406/api';
const until = Date.now() + Number(minutes) * 60_000;
const USERS = 2;
const pick = (list) => list[Math.floor(Math.random() * list.length)];
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

const program = spawn('bin/dorbin', ['serve', '--data', data, '--listen', '127.0.0.1:8406', '--tesseract', 'none'], {
  stdio: ['ignore', 'pipe', 'ignore'],
});
await new Promise((resolve) => program.stdout.once('data', resolve));
let ended = false;
program.on('exit', (code) => {
  ended = true;
  if (Date.now() < until) console.log(`the program ended with ${code}`);
});

const resident = (pid) => {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
  } catch {
    return 0;
  }
};
const children = () => {
  try {
    return readdirSync(`/proc/${program.pid}/task`).flatMap((task) =>
      readFileSync(`/proc/${program.pid}/task/${task}/children`, 'utf8').split(' ').filter(Boolean).map(Number),
    );
  } catch {
    return [];
  }
};
const bytesIn = (path) =>
  readdirSync(path, { recursive: true, withFileTypes: true }).reduce((sum, entry) => {
    try {
      return entry.isFile() ? sum + statSync(join(entry.parentPath ?? entry.path, entry.name)).size : sum;
    } catch {
      return sum; // deleted meanwhile
    }
  }, 0);

const counts = { uploads: 0, refused: 0, exports: 0, failedExports: 0, pictures: 0, commands: 0, killed: 0, errors: 0, slowest: 0 };
let peak = 0;
let peakOfAll = 0;
const watch = setInterval(() => {
  const own = resident(program.pid);
  peak = Math.max(peak, own);
  peakOfAll = Math.max(peakOfAll, own + children().reduce((sum, pid) => sum + resident(pid), 0));
}, 100);

async function call(method, path, body) {
  const begun = Date.now();
  const isForm = body instanceof FormData;
  const response = await fetch(base + path, {
    method,
    body: isForm || body === undefined ? body : JSON.stringify(body),
    headers: isForm || body === undefined ? {} : { 'Content-Type': 'application/json' },
  });
  counts.slowest = Math.max(counts.slowest, (Date.now() - begun) / 1000);
  if (response.status >= 500) {
    counts.errors++;
    console.log(`${method} ${path}: ${response.status}`);
  }
  const type = response.headers.get('content-type') ?? '';
  return type.includes('json') ? response.json() : (await response.arrayBuffer(), response.status);
}

async function work() {
  const { id } = await call('POST', '/packets', { name: 'Soak' });
  for (let n = 0; n < 4; n++) {
    const file = pick(files);
    const form = new FormData();
    form.append('files', new Blob([file.data]), file.name);
    const outcomes = await call('POST', `/packets/${id}/sources`, form);
    counts.uploads++;
    if (outcomes[0]?.result !== 'added') counts.refused++;
  }
  const packet = await call('GET', `/packets/${id}`);
  const pages = packet.parts.flatMap((part) => part.pages);
  for (const page of pages.slice(0, 12)) {
    await call('GET', `/sources/${page.source}/pages/${page.sourcePage}/image?width=${pick([240, 960])}`);
    counts.pictures++;
  }
  if (pages.length === 0) return void (await call('DELETE', `/packets/${id}`));
  let { revision } = packet;
  for (let n = 0; n < 5; n++) {
    const commands = [{ do: 'turn', pages: [pick(pages).id], by: 90 }];
    const change = await call('POST', `/packets/${id}/commands`, { revision, commands });
    revision = change.revision ?? revision;
    counts.commands++;
  }
  let made = await call('POST', `/packets/${id}/exports`, { size: pick([undefined, 'lighter']) });
  while (made.state === 'waiting' || made.state === 'running') {
    await pause(200);
    made = await call('GET', `/exports/${made.id}`);
    if (Math.random() < 0.02) break; // the packet is deleted while it is exported
  }
  counts.exports++;
  if (made.state === 'failed') counts.failedExports++;
  await call('DELETE', `/packets/${id}`);
}

async function user() {
  while (Date.now() < until && !ended) {
    try {
      await work();
    } catch (error) {
      if (ended) return;
      counts.errors++;
      console.log(String(error), String(error.cause ?? ''));
    }
    await pause(Math.random() * 1500);
  }
}

async function killer() {
  while (Date.now() < until && !ended) {
    await pause(5000 + Math.random() * 10_000);
    const victim = pick(children());
    if (victim) {
      try {
        process.kill(victim, 'SIGKILL');
        counts.killed++;
      } catch {
        // it ended by itself
      }
    }
  }
}

async function reporter() {
  for (let minute = 0; Date.now() < until && !ended; minute += 5) {
    console.log(`${minute} min: server ${resident(program.pid) >> 20} MB, ${bytesIn(data) >> 10} KB on disk`, JSON.stringify(counts));
    for (let s = 0; s < 300 && Date.now() < until; s++) await pause(1000);
  }
}

await pause(3000);
const before = { resident: resident(program.pid), bytes: bytesIn(data) };
await Promise.all([...Array.from({ length: USERS }, user), killer(), reporter()]);
if (ended) process.exit(1);
for (const { id } of await call('GET', '/packets')) await call('DELETE', `/packets/${id}`);
await pause(60_000);
clearInterval(watch);
const after = { resident: resident(program.pid), bytes: bytesIn(data), stored: bytesIn(join(data, 'files')), workers: children().length };
console.log('before', before, 'after', after, `peaks: server ${peak >> 20} MB, all ${peakOfAll >> 20} MB`, counts);
program.kill();
rmSync(data, { recursive: true, force: true });
