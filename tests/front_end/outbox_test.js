// Entries that wait: in order, once each, none lost.

import { BATCH, Outbox } from "../../src/bathys_web/static/bathys/outbox.js";

const same = (found, wanted) => {
  const [one, two] = [found, wanted].map((value) => JSON.stringify(value));
  if (one !== two) throw new Error(`${one} is not ${two}`);
};

const inMemory = () => {
  const kept = new Map();
  return {
    all: () => Promise.resolve([...kept.values()].toReversed()), // in no order of its own
    put: (entry) => Promise.resolve(kept.set(entry.key, entry)),
    drop: (key) => Promise.resolve(kept.delete(key)),
  };
};

/** A server that keeps what it is sent, may be out of reach, and may lose its answers. */
const server = () => {
  const log = [];
  const known = new Set();
  const self = {
    log,
    is_there: true,
    loses: false,
    refuses: new Set(),
    post: (rows) => {
      if (!self.is_there) return Promise.reject(new Error("no signal"));
      const received = rows.map(({ key }) => {
        if (self.refuses.has(key)) return { key, state: "refused", errors: { at: "Too late." } };
        const state = known.has(key) ? "known" : "kept";
        if (state === "kept") log.push(key);
        known.add(key);
        return { key, state, told: [], errors: {} };
      });
      if (self.loses) return Promise.reject(new Error("the answer was lost"));
      return Promise.resolve({ state: "sent", received, told: "" });
    },
  };
  return self;
};

const filled = async (store, there, count) => {
  const outbox = new Outbox({ store, post: there.post });
  for (let n = 0; n < count; n++) await outbox.add({ key: `k${n}`, kind: "note" });
  return outbox;
};

Deno.test("they wait without signal and go in the order in which they were made", async () => {
  const there = server();
  const outbox = await filled(inMemory(), there, 2 * BATCH + 3);
  there.is_there = false;
  same((await outbox.send()).state, "no signal");
  same((await outbox.waiting()).length, 2 * BATCH + 3);
  there.is_there = true;
  same(await outbox.send(), { state: "sent", count: 2 * BATCH + 3, told: [] });
  same(there.log, Array.from({ length: 2 * BATCH + 3 }, (_, n) => `k${n}`));
  same(await outbox.waiting(), []);
});

Deno.test("an answer that is lost sends none twice and loses none", async () => {
  const there = server();
  const outbox = await filled(inMemory(), there, 3);
  there.loses = true;
  same((await outbox.send()).state, "no signal");
  const [first] = await outbox.waiting();
  same(Outbox.isOurs(first), false); // the server may have it: it is not changed any more
  there.loses = false;
  same((await outbox.send()).count, 3);
  same(there.log, ["k0", "k1", "k2"]);
});

Deno.test("what is refused stays, says why, and goes once it is mended", async () => {
  const there = server();
  const outbox = await filled(inMemory(), there, 3);
  there.refuses.add("k1");
  same((await outbox.send()).count, 2);
  const [stays] = await outbox.waiting();
  same([stays.key, stays.errors, Outbox.isOurs(stays)], ["k1", { at: "Too late." }, true]);
  same((await outbox.send()).count, 0);
  there.refuses.clear();
  await outbox.add({ ...stays, note: "mended" });
  same((await outbox.send()).count, 1);
});

Deno.test("two calls at once send each entry once", async () => {
  const there = server();
  const outbox = await filled(inMemory(), there, 5);
  await Promise.all([outbox.send(), outbox.send()]);
  same(there.log.length, 5);
});

Deno.test("photos go a few at a time, still in their order", async () => {
  const there = server();
  const sizes = [];
  const post = (rows) => {
    sizes.push(rows.length);
    return there.post(rows);
  };
  const outbox = new Outbox({ store: inMemory(), post });
  for (let n = 0; n < 5; n++) {
    await outbox.add({ key: `k${n}`, kind: "note", photo: "x".repeat(n === 1 ? 2e6 : 7e5) });
  }
  same((await outbox.send()).count, 5);
  same(there.log, ["k0", "k1", "k2", "k3", "k4"]);
  same(sizes, [1, 1, 2, 1]);
});
