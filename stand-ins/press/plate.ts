/** How the simulated plate behaves. Invented for the demo, in the order of what home presses do. */
const plateDefaults = {
  room: 22,
  /** °C a second that the heater adds, and the share of its surplus over the room that it loses in a second. */
  heats: 0.9,
  loses: 0.0012,
  /** What closing on a cold piece takes off at once, °C, and how much the piece goes on taking a second. */
  drop: 9,
  takes: 0.35,
  /** The coolest corner has so much less of the surplus over the room. */
  corner: 0.06,
};

/** A heated plate: warms up, falls when it closes on something cold, comes back; a corner is cooler. Temperatures in °C, time in s. */
export class Plate {
  celsius = plateDefaults.room;
  set = plateDefaults.room;
  closed = false;
  #sinceClosed = 0;

  close(): void {
    if (this.closed) return;
    this.closed = true;
    this.#sinceClosed = 0;
    this.celsius -= Math.min(plateDefaults.drop, Math.max(0, this.celsius - plateDefaults.room) * 0.07);
  }
  open(): void {
    this.closed = false;
  }
  /** Goes on by so many seconds. */
  run(seconds: number): void {
    const step = 0.1;
    for (let t = 0; t < seconds - 1e-9; t += step) {
      const d = plateDefaults;
      const loss = d.loses * (this.celsius - d.room);
      // A piece under the plate is warm after some seconds, and takes less and less.
      const taken = this.closed ? d.takes * Math.exp(-this.#sinceClosed / 6) : 0;
      const heat = this.celsius < this.set ? Math.min(d.heats, loss + taken + (this.set - this.celsius) * 0.5) : 0;
      this.celsius += (heat - loss - taken) * step;
      if (this.closed) this.#sinceClosed += step;
    }
  }
  get corner(): number {
    return this.celsius - plateDefaults.corner * (this.celsius - plateDefaults.room);
  }
}
