export { checkNames, crossingsUsed } from './check-names.js';
export {
  crossingsNamed,
  nameOf,
  type NameSettings,
  type Naming,
  namingOf,
  SCHOOL_NOTES,
  schoolName,
} from './schools.js';
