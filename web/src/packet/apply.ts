import type { Command, CommandFields, CommandOf, Packet, Page, Part } from '../api/client';

/**
 * The packet as it will be after commands, as far as that can be predicted. It lets the screen answer at
 * once; what the server says later takes its place. Commands that only the server can carry out leave the
 * packet as it is.
 */
export function predict(packet: Packet, commands: readonly Command[]): Packet {
  return renumber(commands.reduce(predictOne, packet));
}

function predictOne(packet: Packet, command: Command): Packet {
  const { pages: named }: CommandFields = command;
  const pages = new Set(named ?? []);
  switch (command.do) {
    case 'turn':
      return mapPages(packet, (page) => (pages.has(page.id) ? turned(page, command.by) : page));
    case 'flip':
      return mapPages(packet, (page) => (pages.has(page.id) ? flipped(page, command.axis) : page));
    case 'tone':
      return mapPages(packet, (page) =>
        pages.has(page.id) ? { ...page, tone: command.tone ?? page.tone } : page,
      );
    case 'move':
      return insert(without(packet, pages), placed(packet, pages), command);
    case 'setAside':
      return setAside(packet, pages);
    case 'keepOnly':
      return setAside(packet, new Set(others(packet, pages)));
    case 'note':
      return mapPages(packet, (page) =>
        pages.has(page.id) ? { ...page, note: command.title?.trim() } : page,
      );
    case 'reverse':
    case 'swap':
      return rearrange(packet, pages, (chosen) => chosen.toReversed());
    case 'interleave':
      return rearrange(packet, pages, (chosen) => interleaved(chosen, command.backwards ?? false));
    case 'deal':
      return rearrange(packet, pages, (chosen) => dealt(chosen, command.backwards ?? false));
    case 'movePart':
      return movePart(packet, command.part, command.at ?? 0);
    case 'join':
      return join(packet, command.parts ?? []);
    case 'finish': {
      const finish = { ...packet.finish };
      for (const section of Object.keys(finish) as (keyof typeof finish)[]) {
        Object.assign(finish, command[section] && { [section]: command[section] });
      }
      return { ...packet, finish };
    }
    case 'receiver':
      return { ...packet, receiver: command.receiver };
    case 'paper': {
      const named = new Set(command.parts ?? []);
      const parts = packet.parts.map((part) =>
        named.has(part.id) ? { ...part, paper: command.paper } : part,
      );
      return { ...packet, parts };
    }
    case 'rename':
      return { ...packet, name: command.title };
    case 'renamePart':
      return {
        ...packet,
        parts: packet.parts.map((part) =>
          part.id === command.part ? { ...part, title: command.title } : part,
        ),
      };
    default:
      return packet;
  }
}

/** Whether the pages and the place that commands name are still there. */
export function stillMakesSense(packet: Packet, commands: readonly Command[]): boolean {
  const inParts = new Set(allPages(packet).map((page) => page.id));
  const aside = new Set(packet.setAside.map((page) => page.id));
  const parts = new Set(packet.parts.map((part) => part.id));
  return commands.every((command: CommandFields) => {
    const home = command.do === 'restore' ? aside : inParts;
    const anchor = command.after ?? command.before;
    return (
      (command.pages ?? []).every((id) => home.has(id)) &&
      (!anchor || inParts.has(anchor)) &&
      [command.part ?? '', ...(command.parts ?? [])].every((id) => id === '' || parts.has(id))
    );
  });
}

export function allPages(packet: Packet): Page[] {
  return packet.parts.flatMap((part) => part.pages);
}

export const idsOf = (pages: readonly Page[]) => pages.map((page) => page.id);

function turned(page: Page, by: number): Page {
  const turn = ((page.turn + by) % 360) as Page['turn'];
  const swap = by % 180 !== 0;
  return { ...page, turn, width: swap ? page.height : page.width, height: swap ? page.width : page.height };
}

/** A page is mirrored before it is turned, so the turn goes the other way round afterwards. */
function flipped(page: Page, axis: CommandOf<'flip'>['axis']): Page {
  const turn = (((axis === 'topBottom' ? 180 : 0) - page.turn + 360) % 360) as Page['turn'];
  return { ...page, mirror: !page.mirror, turn };
}

/** Changes pages; parts in which none changes stay the same objects. */
function mapPages(packet: Packet, change: (page: Page) => Page): Packet {
  const parts = packet.parts.map((part) => {
    const pages = part.pages.map(change);
    return pages.every((page, i) => page === part.pages[i]) ? part : { ...part, pages };
  });
  return { ...packet, parts };
}

function others(packet: Packet, pages: ReadonlySet<string>): string[] {
  return allPages(packet).flatMap((page) => (pages.has(page.id) ? [] : [page.id]));
}

/** Puts pages into another order among the places that they have. */
function rearrange(packet: Packet, ids: ReadonlySet<string>, order: (pages: Page[]) => Page[]): Packet {
  const queue = order(placed(packet, ids));
  return mapPages(packet, (page) => (ids.has(page.id) ? (queue.shift() ?? page) : page));
}

function interleaved(pages: Page[], backwards: boolean): Page[] {
  const half = Math.ceil(pages.length / 2);
  const backs = backwards ? pages.slice(half).reverse() : pages.slice(half);
  return pages.slice(0, half).flatMap((front, i) => [front, ...backs.slice(i, i + 1)]);
}

function dealt(pages: Page[], backwards: boolean): Page[] {
  const even = pages.filter((_, i) => i % 2 === 1);
  return [...pages.filter((_, i) => i % 2 === 0), ...(backwards ? even.reverse() : even)];
}

function movePart(packet: Packet, id: string, at: number): Packet {
  const part = packet.parts.find((p) => p.id === id);
  if (!part) return packet;
  return { ...packet, parts: packet.parts.filter((p) => p !== part).toSpliced(at, 0, part) };
}

function join(packet: Packet, ids: readonly string[]): Packet {
  const joined = packet.parts.filter((part) => ids.includes(part.id));
  const first = joined[0];
  const parts = packet.parts.flatMap((part) => {
    if (part === first) return [{ ...part, pages: joined.flatMap((p) => p.pages) }];
    return joined.includes(part) ? [] : [part];
  });
  return { ...packet, parts };
}

function placed(packet: Packet, ids: ReadonlySet<string>): Page[] {
  return allPages(packet).filter((page) => ids.has(page.id));
}

function without(packet: Packet, ids: ReadonlySet<string>): Packet {
  const parts = packet.parts.map((part) =>
    part.pages.some((page) => ids.has(page.id))
      ? { ...part, pages: part.pages.filter((page) => !ids.has(page.id)) }
      : part,
  );
  return { ...packet, parts };
}

function setAside(packet: Packet, ids: ReadonlySet<string>): Packet {
  const aside = packet.parts.flatMap((part) =>
    part.pages.filter((page) => ids.has(page.id)).map((page) => ({ ...page, number: 0, from: part.title })),
  );
  return { ...without(packet, ids), setAside: [...packet.setAside, ...aside] };
}

function insert(packet: Packet, pages: Page[], command: CommandOf<'move'>): Packet {
  const anchor = command.after ?? command.before;
  const parts = packet.parts.map((part): Part => {
    const at = anchor ? part.pages.findIndex((page) => page.id === anchor) : -1;
    if (anchor ? at < 0 : part.id !== command.part) return part;
    const place = anchor ? at + (command.after ? 1 : 0) : (command.at ?? part.pages.length);
    return { ...part, pages: part.pages.toSpliced(place, 0, ...pages) };
  });
  return { ...packet, parts };
}

/** Numbers the pages anew and drops parts without pages. */
export function renumber(packet: Packet): Packet {
  let number = 0;
  const parts = packet.parts
    .filter((part) => part.pages.length > 0)
    .map((part) => {
      const first = number;
      number += part.pages.length;
      if (part.pages.every((page, i) => page.number === first + i + 1)) return part;
      const pages = part.pages.map((page, i) => {
        const own = first + i + 1;
        return page.number === own ? page : { ...page, number: own };
      });
      return { ...part, pages };
    });
  return { ...packet, parts };
}
