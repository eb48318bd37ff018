// Edits go one after the other; what is only looked at waits for them. It knows nothing of the page.

const said = (edit) => `${edit.path} ${new URLSearchParams(edit.values)}`;

export class EditQueue {
  #edits = []; // in waiting
  #looks = new Map(); // in waiting: of each place, the last one asked for
  #now = null; // the edit that is being sent
  #send;
  #done;
  #look;

  // `send` gives a promise of an edit's answer; `done` is told when none is left to send, and
  // `look` then gets each look that waited.
  constructor({ send, done, look }) {
    this.#send = send;
    this.#done = done;
    this.#look = look;
  }

  get isBusy() {
    return this.#now !== null;
  }

  // Enter in a box is two events for one edit, and a button pressed twice in haste is one offer; a
  // step, though, is as many steps as it is pressed: such an edit `holds`.
  push(edit) {
    const last = this.#edits.at(-1) ?? this.#now;
    if (!edit.holds && last && said(last) === said(edit)) return;
    this.#edits.push(edit);
    if (!this.isBusy) this.#run();
  }

  look(place, wanted) {
    this.#looks.set(place, wanted);
  }

  waitsFor(place) {
    return this.#looks.has(place);
  }

  forget(place) {
    this.#looks.delete(place);
  }

  async #run() {
    while (this.#edits.length) {
      this.#now = this.#edits.shift();
      await this.#send(this.#now);
    }
    this.#now = null;
    this.#done();
    const waiting = [...this.#looks.values()];
    this.#looks.clear();
    for (const wanted of waiting) this.#look(wanted);
  }
}
