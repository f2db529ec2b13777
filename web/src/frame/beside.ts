/** The pages beside the projects, as they are called everywhere. */
export const BESIDE = [
  { to: '/starters', name: 'Starters' },
  { to: '/shelf', name: 'Offcut shelf' },
  { to: '/machine', name: 'Simulated machine' },
  { to: '/queue', name: 'Hand-in queue' },
  { to: '/service', name: 'Cutting service' },
]
