/**
 * Every bound of the core in one place. A document beyond one of them is refused before it costs the memory, with the
 * number, the bound and the place in the message.
 */
export const LIMITS = {
  document: {
    /** Levels of lists and objects within each other. */
    nesting: 200,
    /** Names that people give: of the project, a rehearsal, a load set, an enum; and any text that names something. */
    name: 1_000,
    /** Notes, reasons and texts. */
    text: 100_000,
    /** A naming pattern, and the instructions that it may compile to. */
    pattern: 1_000,
    patternProgram: 10_000,
    /** Corners of a polygon. */
    corners: 10_000,
    /** Problems and unknown properties that are named one by one. */
    problems: 50,
    /** Times, delays and periods, in seconds: about thirty years. */
    seconds: 1e9,
    /** Whole numbers beyond this are not exact any more. */
    whole: Number.MAX_SAFE_INTEGER,
  },
  expansion: {
    instances: 5_000_000,
    /** Levels of prefabs and widgets within each other. */
    levels: 1_000,
    /** Placements that are not expanded since they close a loop of assets. */
    loops: 500_000,
    /** Events and actions of all instances; expanded bindings. Both are numbered in 32 bits. */
    nodes: 25_000_000,
    bindings: 25_000_000,
    /** Work of finding what is spawned: assets times what each of them reaches by spawning. */
    spawning: 20_000_000,
  },
  typedNames: {
    /** Placed instances whose addresses are listed as types. */
    instances: 20_000,
  },
  graph: { edges: 60_000_000 },
  audit: {
    /** Findings of one rule that are listed; the last one says how many more there are. */
    findings: 10_000,
    /** Nodes among which a way round a cycle is looked for, to be drawn. */
    nodesOfRound: 5_000,
    /** Pairs of bindings that one rule reports for one event: at most, and in any case. */
    pairs: 20_000,
    pairsOfEvent: 200,
    /** Names that are looked at for one that is alike. */
    near: 20_000,
  },
  rehearsal: {
    deliveries: 1_000_000,
    /** Performances of one action of one instance at one instant. */
    atOnce: 1_000,
    /** Instances that spawning makes, and records, in one run. */
    copies: 1_000_000,
    records: 10_000_000,
    ticks: 2_000_000,
  },
  walk: {
    /** Records and steps that a walk may have: then it is to be kept, or begun anew. */
    records: 200_000,
    steps: 20_000,
    /** Microseconds of the game's time. */
    time: 2 * 3600 * 1_000_000,
  },
  plays: {
    /** Characters of a line of a trace. */
    line: 100_000,
    /** Things that one instance should do and that are waited for. */
    pendingAt: 500,
    /** Sessions that are followed side by side: one more ends the one that was silent longest. */
    open: 64,
    /** Different things of one kind that are reported, broken lines that are named, and sessions that become rehearsals. */
    reported: 2_000,
    brokenLines: 100,
    rehearsals: 20,
    /** Steps of a session that becomes one: the first. */
    steps: 5_000,
    /** Names of sessions that are remembered, and expanded bindings whose counts are listed. */
    sessions: 100_000,
    bindings: 200_000,
  },
} as const;
