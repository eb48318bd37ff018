// Entries of the log that wait on this device. They are sent in the order in which they were made;
// each goes once the server has said that it has it, so none is lost and none comes twice.
export const BATCH = 100; // entries sent at once
const PHOTOS = 1_500_000; // letters of photos sent at once

/** What of an entry the server is told. */
const row = ({ key, kind, part, typed, units, at, is_at_typed, note, photo = "" }) => ({
  key,
  kind,
  part,
  typed,
  units,
  at,
  is_at_typed,
  note,
  photo,
});

/** The first entries that go together: so many, and so many letters of photos. */
const batch = (entries) => {
  let [letters, count] = [0, 0];
  for (const entry of entries.slice(0, BATCH)) {
    letters += (entry.photo ?? "").length;
    if (count && letters > PHOTOS) break;
    count += 1;
  }
  return entries.slice(0, count);
};

export class Outbox {
  /**
   * `store` keeps entries (`all`, `put`, `drop`); `post` sends rows and gives
   * `{ state, received, told }`, its state `sent`, `signed out`, `gone` or `refused`, or throws
   * where there is no signal.
   */
  constructor({ store, post }) {
    this.store = store;
    this.post = post;
    this.sending = null;
  }

  /** Entries as they were made, the first first. */
  async waiting() {
    return (await this.store.all()).toSorted((one, two) => one.made - two.made);
  }

  /** Keep an entry; one of the same key is changed. */
  async add(entry) {
    const before = (await this.store.all()).find((other) => other.key === entry.key);
    const last = Math.max(0, ...(await this.store.all()).map((other) => other.made));
    await this.store.put({ ...entry, made: before ? before.made : last + 1, errors: null });
  }

  /** Whether it may still be changed or dropped: nobody can have it yet. */
  static isOurs(entry) {
    return !entry.is_tried || Boolean(entry.errors);
  }

  drop(key) {
    return this.store.drop(key);
  }

  /** Send all that is not refused; what came of it. One call at a time goes through. */
  send() {
    this.sending ??= this.#send().finally(() => (this.sending = null));
    return this.sending;
  }

  async #send() {
    const told = [];
    let count = 0;
    for (;;) {
      const rows = batch((await this.waiting()).filter((entry) => !entry.errors));
      if (!rows.length) return { state: "sent", count, told };
      for (const entry of rows) await this.store.put({ ...entry, is_tried: true });
      let answer;
      try {
        answer = await this.post(rows.map(row));
      } catch {
        return { state: "no signal", count, told };
      }
      if (answer.state !== "sent") return { state: answer.state, count, told };
      if (answer.told) told.push(answer.told);
      const verdicts = new Map(answer.received.map((one) => [one.key, one]));
      for (const entry of rows) {
        const verdict = verdicts.get(entry.key);
        if (verdict && verdict.state !== "refused") {
          count += 1;
          told.push(...verdict.told);
          await this.store.drop(entry.key);
        } else {
          const errors = verdict ? verdict.errors : { "": "The server did not take it." };
          await this.store.put({ ...entry, is_tried: true, errors });
        }
      }
    }
  }
}
