export { summarise } from '@cordelina/core';
