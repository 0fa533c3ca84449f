type Kept = { key: string; at: number };

/** As long as the server keeps what it answered to a key, and no longer. */
const LONGEST = 7 * 24 * 3_600_000;

/**
 * Keys of commands by what they say. The same words get the same key until an answer came to them: a command whose answer was
 * lost is not carried out twice when somebody presses the button again.
 */
export class CommandKeys {
  constructor(
    private readonly store: Pick<Storage, 'getItem' | 'setItem'>,
    private readonly now: () => number = Date.now,
  ) {}

  async of(content: string, fresh: () => string): Promise<string> {
    const name = await digest(content);
    const kept = this.read();
    const key = kept[name]?.key ?? fresh();
    kept[name] = { key, at: this.now() };
    this.write(kept);
    return key;
  }

  answered(key: string) {
    this.write(Object.fromEntries(Object.entries(this.read()).filter(([, one]) => one.key !== key)));
  }

  private read(): Record<string, Kept> {
    try {
      const all = JSON.parse(this.store.getItem(PLACE) ?? '{}') as Record<string, Kept>;
      return Object.fromEntries(Object.entries(all).filter(([, one]) => this.now() - one.at < LONGEST));
    } catch {
      return {};
    }
  }

  private write(kept: Record<string, Kept>) {
    this.store.setItem(PLACE, JSON.stringify(kept));
  }
}

const PLACE = 'commands-without-answer';

/** What was said, in a few letters; without a secure connection browsers compute no digest, and the words stand for themselves. */
async function digest(content: string): Promise<string> {
  const { subtle } = crypto as Partial<Crypto>;
  if (!subtle) return content;
  const bytes = new Uint8Array(await subtle.digest('SHA-256', new TextEncoder().encode(content)));
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** A random key (RFC 9562, version 4); also where the connection is not secure. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}

/** Where keys outlive a page that is loaded again; in a browser that keeps nothing they live as long as the page. */
export function storage(): Pick<Storage, 'getItem' | 'setItem'> {
  try {
    sessionStorage.setItem('is-kept', '');
    sessionStorage.removeItem('is-kept');
    return sessionStorage;
  } catch {
    const kept = new Map<string, string>();
    return { getItem: (name) => kept.get(name) ?? null, setItem: (name, value) => void kept.set(name, value) };
  }
}
