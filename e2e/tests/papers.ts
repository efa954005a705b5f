import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A file as it is dropped into a window. */
export interface Paper {
  name: string;
  mimeType: string;
  buffer: Buffer;
}

/** How far below each other lines of a page are, in points. */
const LEADING = 300;

/** A PDF with text on each page, large enough to be read on a thumbnail; several lines are far apart. */
export function pdf(name: string, lines: string[], width = 595, height = 842, catalog = ''): Paper {
  const objects = [`<< /Type /Catalog /Pages 2 0 R ${catalog} >>`, ''];
  const kids = lines.map((line) => {
    const shown = line.split('\n').map((words) => `(${words}) Tj 0 -${LEADING} Td`);
    const content = `BT /F1 40 Tf 60 ${height - 120} Td ${shown.join(' ')} ET`;
    objects.push(`<< /Length ${content.length} >>\nstream\n${content}\nendstream`);
    objects.push(
      `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 ${width} ${height}] /Contents ${objects.length} 0 R ` +
        '/Resources << /Font << /F1 << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >> >>',
    );
    return `${objects.length} 0 R`;
  });
  objects[1] = `<< /Type /Pages /Kids [${kids.join(' ')}] /Count ${kids.length} >>`;
  let file = '%PDF-1.4\n';
  const offsets = objects.map((object, i) => {
    const at = file.length;
    file += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const start = file.length;
  file += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n`;
  for (const at of offsets) file += `${String(at).padStart(10, '0')} 00000 n \n`;
  file += `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`;
  return { name, mimeType: 'application/pdf', buffer: Buffer.from(file, 'latin1') };
}

/** A JPEG without the tables that it takes to decode it. */
export function brokenJpeg(name: string): Paper {
  const frame = [0xff, 0xc0, 0, 11, 8, 0, 100, 0, 100, 1, 1, 0x11, 0];
  const scan = [0xff, 0xda, 0, 8, 1, 1, 0, 0, 0x3f, 0, 1, 2, 3];
  return {
    name,
    mimeType: 'image/jpeg',
    buffer: Buffer.from([0xff, 0xd8, ...frame, ...scan, 0xff, 0xd9]),
  };
}

/** What poppler, which had no part in writing it, reads in a PDF: the text and the rotation of each page. */
export function readPdf(path: string): { text: string; rotation: number; size: string }[] {
  const info = execFileSync('pdfinfo', ['-l', '-1', path], { encoding: 'utf8' });
  const count = Number(/^Pages:\s+(\d+)/m.exec(info)?.[1]);
  return Array.from({ length: count }, (_, i) => {
    const page = String(i + 1);
    const text = execFileSync('pdftotext', ['-f', page, '-l', page, path, '-'], { encoding: 'utf8' });
    const row = new RegExp(`^Page\\s+${page} rot:\\s+(\\d+)`, 'm').exec(info);
    const size = new RegExp(`^Page\\s+${page} size:\\s+(.*?) pts`, 'm').exec(info);
    return { text: text.trim(), rotation: Number(row?.[1]), size: size?.[1] ?? '' };
  });
}

/** The words that are recognised on a page of a document, as poppler draws it. */
export function wordsOf(document: string, number: number): string {
  const picture = join(mkdtempSync(join(tmpdir(), 'dorbin-words-')), 'page');
  execFileSync('pdftoppm', [
    '-r',
    '150',
    '-singlefile',
    '-f',
    `${number}`,
    '-l',
    `${number}`,
    document,
    picture,
  ]);
  return execFileSync('tesseract', [`${picture}.ppm`, '-'], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
    // Several threads wait for each other for minutes on a busy machine.
    env: { ...process.env, OMP_THREAD_LIMIT: '1' },
  });
}

export function save(folder: string, paper: Paper): string {
  const path = join(folder, paper.name);
  writeFileSync(path, paper.buffer);
  return path;
}
