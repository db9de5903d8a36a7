export { runMachine, type Action, type Run, type Setup } from './beds.js';
export { listOf, type MachineProblem, type Method, type OperatorsList } from './list.js';
export { MOST_NEEDLES, placeOf as needlePlace } from './needles.js';
