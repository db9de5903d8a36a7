export { type Action, type Setup } from './beds.js';
export { differenceOf, type Difference } from './difference.js';
export {
  actionSigns,
  actionText,
  listCsvRows,
  listText,
  LIST_COLUMNS,
  readList,
  toldActions,
  toldList,
  toolsOf,
  type ListRead,
  type ToldList,
} from './list-text.js';
export { clothWanted, listOf, type MachineProblem, type Method, type OperatorsList } from './list.js';
export { allOneWay, liesBothWays, machineMends, stretched } from './mends.js';
export { inOrder, MOST_NEEDLES, needleAt, placeOf as needlePlace } from './needles.js';
export { type Pictured, picturesOf, type Stands, type TransferFrame, transferFrames } from './pictures.js';
export { type Done, Operator, runMachine, type Run } from './operate.js';
