/** The connectors that cards are made for, by key, as the parts drawer has them. */
export const CARDS = [
  { key: 'cf50', name: 'compact flash' },
  { key: 'sd', name: 'secure digital' },
  { key: 'msd', name: 'micro secure digital' },
]
