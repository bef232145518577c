/**
 * How much one person, one address and everybody together may ask for. One file, so that whoever runs Versipel sees all of it; each
 * number with its reason. "Address" is the visitor's, seen through the proxies of VERSIPEL_TRUST_PROXY. A school or a makers' club sits
 * behind one address: numbers for addresses are about thirty times those for one pair of hands.
 */
export const quotas = {
  /** Bytes of a request's body, counted as they come. */
  body: {
    /** A form: the longest one has a few fields of 2 000 characters. */
    form: 64_000,
    /** A delivery of an outbox: 100 events of about 300 bytes, and room. */
    events: 200_000,
    /** Room for the other fields and the frame of an upload, beside its file. */
    frame: 100_000,
    /** Fields of a form: a table of 60 columns to be mapped is the longest. */
    fields: 300,
    /** All bodies that are being read at one moment: memory that strangers hold. */
    together: 64_000_000,
  },
  /** Seconds a body may take to arrive: a form is one packet or two, an upload may come over a telephone. */
  bodySeconds: { form: 15, upload: 90 },
  /** Characters of an address with its query; query fields. A wall chart names its cutters, a sheet of labels its pieces (200). */
  url: { length: 12_000, fields: 300 },
  /** Writes of one address in a minute, refused ones included: thirty people who tap every two seconds, and room. */
  writesPerMinute: 1_500,
  /** Bytes of uploads of one address in an hour: a few tables and packs, or a class that brings one each. */
  uploadBytesPerHour: 120_000_000,
  /** Writes that run at one moment, of everybody and of one asker: reading pages keep connections of their own. */
  writes: { together: 6, each: 3, waiting: 120, waitingEach: 40, seconds: 10 },
  /** Computations on threads: how many wait at most, of everybody and of one asker, and how long one may take, seconds. */
  threads: {
    waiting: 96,
    waitingEach: 40,
    seconds: 30,
    background: 600,
    /** A drawing: one within its limits takes two or three. */
    drawing: 8,
    /** Everything that one form or page asks for, its waiting included: sixty names are sixty drawings. */
    request: 40,
    /** Of one asker and of one address lately, about a minute: two threads have 120 in all. */
    perMinute: { asker: 45, address: 80 },
  },
  /** Papers and pictures that are drawn at one moment wait in the same way; a wall chart has so many rows at most. */
  chartRows: 400,
  /** Letters one address may have sent, to everybody and to one person, and those that may go to one person: no address uses up another's. */
  letters: { minutes: 60, perAddress: 20, perPair: 4, perEmail: 30 },
  /** Guests made from one address in an hour: a class that begins together, twice. */
  guestsPerHour: 120,
  /** What a person may have in all: several times the largest workshop we could think of. */
  rows: {
    guest: {
      vinyls: 6_000,
      cutters: 12,
      coupons: 1_000,
      stock: 1_000,
      mats: 40,
      presses: 40,
      imports: 5,
      models: 5,
      types: 20,
      jobs: 60,
      blanks: 30,
      recipes: 100,
      swatches: 60,
      notes: 200,
    },
    account: {
      vinyls: 60_000,
      cutters: 60,
      coupons: 10_000,
      stock: 10_000,
      mats: 200,
      presses: 200,
      imports: 20,
      models: 40,
      types: 60,
      jobs: 2_000,
      blanks: 200,
      recipes: 2_000,
      swatches: 1_000,
      notes: 5_000,
    },
  },
  /** Searches, questions of programs and packs of one asker in a minute: typing asks at every stroke, programs by themselves. */
  perMinute: { search: 300, api: 120, pack: 30, plan: 90, paper: 20, picture: 120, drawing: 30 },
  /** The same of one address, where guests come and go behind it. */
  perMinuteOfAddress: { search: 1_500, api: 120, pack: 60, plan: 300, paper: 60, picture: 600, drawing: 120 },
  /** Events of an outbox: a hand that taps every second for a quarter of an hour, brought at once; what can be said of one cell. */
  events: { perMinute: 1_000, perMinuteOfAddress: 6_000, perCell: 200 },
  /** What one address may add in an hour, of anything: acts and events, and the bytes of all that is sent. */
  perHourOfAddress: { rows: 60_000, bytes: 250_000_000 },
  /** Connections of one address at one moment: thirty browsers with six each, and room. Behind a proxy the proxy counts. */
  connections: { all: 2_000, ofAddress: 300 },
  /** Bytes that must be free where the database lies; under that only what hands did is taken. */
  freeDisk: 300_000_000,
  /** Devices an account is known on, and places it is signed in at: those used longest ago go. */
  devices: 20,
  sessions: 100,
  /** How long something is kept that nobody came back to, days. */
  keptDays: { emptyGuest: 2, seenImport: 2, act: 2, attempt: 2, link: 7 },
} as const;
