import type { Command, Packet, Page, Part } from '../api/client';

/**
 * The packet as it will be after commands, as far as that can be foreseen. It lets the screen answer at
 * once; what the server says later takes its place. Commands that only the server can carry out leave the
 * packet as it is.
 */
export function foresee(packet: Packet, commands: readonly Command[]): Packet {
  return renumber(commands.reduce(foreseeOne, packet));
}

function foreseeOne(packet: Packet, command: Command): Packet {
  const pages = new Set(command.pages ?? []);
  switch (command.do) {
    case 'turn':
      return mapPages(packet, (page) => (pages.has(page.id) ? turned(page, command.by ?? 0) : page));
    case 'move':
      return insert(without(packet, pages), placed(packet, pages), command);
    case 'setAside':
      return setAside(packet, pages);
    case 'rename':
      return { ...packet, name: command.title ?? packet.name };
    case 'renamePart':
      return {
        ...packet,
        parts: packet.parts.map((part) =>
          part.id === command.part ? { ...part, title: command.title ?? part.title } : part,
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
  return commands.every((command) => {
    const home = command.do === 'restore' ? aside : inParts;
    const anchor = command.after ?? command.before;
    return (
      (command.pages ?? []).every((id) => home.has(id)) &&
      (!anchor || inParts.has(anchor)) &&
      (!command.part || packet.parts.some((part) => part.id === command.part))
    );
  });
}

export function allPages(packet: Packet): Page[] {
  return packet.parts.flatMap((part) => part.pages);
}

function turned(page: Page, by: number): Page {
  const turn = ((page.turn + by) % 360) as Page['turn'];
  const swap = by % 180 !== 0;
  return { ...page, turn, width: swap ? page.height : page.width, height: swap ? page.width : page.height };
}

function mapPages(packet: Packet, change: (page: Page) => Page): Packet {
  return { ...packet, parts: packet.parts.map((part) => ({ ...part, pages: part.pages.map(change) })) };
}

function placed(packet: Packet, ids: ReadonlySet<string>): Page[] {
  return allPages(packet).filter((page) => ids.has(page.id));
}

function without(packet: Packet, ids: ReadonlySet<string>): Packet {
  const parts = packet.parts.map((part) => ({
    ...part,
    pages: part.pages.filter((page) => !ids.has(page.id)),
  }));
  return { ...packet, parts };
}

function setAside(packet: Packet, ids: ReadonlySet<string>): Packet {
  const aside = packet.parts.flatMap((part) =>
    part.pages.filter((page) => ids.has(page.id)).map((page) => ({ ...page, number: 0, from: part.title })),
  );
  return { ...without(packet, ids), setAside: [...packet.setAside, ...aside] };
}

function insert(packet: Packet, pages: Page[], command: Command): Packet {
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
function renumber(packet: Packet): Packet {
  let number = 0;
  const parts = packet.parts
    .filter((part) => part.pages.length > 0)
    .map((part) => ({
      ...part,
      pages: part.pages.map((page) => {
        number++;
        return page.number === number ? page : { ...page, number };
      }),
    }));
  return { ...packet, parts };
}
