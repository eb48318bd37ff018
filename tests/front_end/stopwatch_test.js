// What the stopwatch writes into its box.

import { seconds, tapsOf, withTime } from "../../src/bathys_web/static/bathys/stopwatch.js";

const same = (found, wanted) => {
  if (found !== wanted) throw new Error(`${found} is not ${wanted}`);
};

Deno.test("times are told to the tenth of a second and stand one after the other", () => {
  same(seconds(12345), "12.3");
  same(withTime("", "12.3"), "12.3");
  same(withTime(" 12.3 ", "12.9"), "12.3 12.9");
});

Deno.test("what is timed by taps is told by the page", () => {
  same(
    JSON.stringify(tapsOf("It stops|a;It starts again|b")),
    JSON.stringify([{ words: "It stops", box: "a" }, { words: "It starts again", box: "b" }]),
  );
});
