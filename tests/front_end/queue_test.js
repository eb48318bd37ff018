// The order in which edits reach the server.

import { EditQueue } from "../../src/bathys_web/static/bathys/queue.js";

const same = (found, wanted) => {
  const [a, b] = [found, wanted].map((v) => JSON.stringify(v));
  if (a !== b) throw new Error(`${a} is not ${b}`);
};
const edit = (text, more = {}) => ({ path: "/edit/", values: { text }, ...more });

// A server that answers when it is told to, and notes what happens in which order.
const slow = (refuses = () => false) => {
  const log = [], answers = [];
  const queue = new EditQueue({
    send: ({ values }) => {
      log.push(`sent ${values.text}`);
      if (refuses(values.text)) return Promise.resolve();
      return new Promise((resolve) => answers.push(resolve));
    },
    done: () => log.push("done"),
    look: (wanted) => log.push(`look ${wanted}`),
  });
  const answer = async () => {
    answers.shift()();
    await new Promise((resolve) => setTimeout(resolve, 0));
  };
  return { queue, log, answer };
};

Deno.test("one edit is sent after the other, however slowly it is answered", async () => {
  const { queue, log, answer } = slow();
  for (const text of ["a", "b", "c"]) queue.push(edit(text));
  same(log, ["sent a"]);
  await answer();
  same(log, ["sent a", "sent b"]);
  queue.push(edit("d"));
  await answer();
  await answer();
  await answer();
  same(log, ["sent a", "sent b", "sent c", "sent d", "done"]);
  same(queue.isBusy, false);
});

Deno.test("the same edit twice in haste is one; a step is as many as it is pressed", async () => {
  const { queue, log, answer } = slow();
  queue.push(edit("a"));
  queue.push(edit("a"));
  queue.push(edit("up", { holds: true }));
  queue.push(edit("up", { holds: true }));
  queue.push(edit("a"));
  for (let left = 4; left; left -= 1) await answer();
  same(log, ["sent a", "sent up", "sent up", "sent a", "done"]);
});

Deno.test("a look waits for the edits before it; of one place the last counts", async () => {
  const { queue, log, answer } = slow();
  queue.push(edit("a"));
  queue.look("inspector", "B1");
  queue.look("inspector", "B2");
  queue.look("bench", "pump");
  same(queue.waitsFor("inspector"), true);
  await answer();
  same(log, ["sent a", "done", "look B2", "look pump"]);
  same(queue.waitsFor("inspector"), false);
});

Deno.test("a look that is forgotten is not made; an edit that is never sent holds up none", async () => {
  const { queue, log, answer } = slow((text) => text === "gone");
  queue.push(edit("gone"));
  queue.push(edit("a"));
  queue.look("inspector", "B1");
  queue.forget("inspector");
  await new Promise((resolve) => setTimeout(resolve, 0));
  await answer();
  same(log, ["sent gone", "sent a", "done"]);
});
