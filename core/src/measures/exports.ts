export { averaged, countOver, type Gauge, MOST_COUNTED, OVER } from './gauge.js';
export { lengthOf, lengthText, type LengthUnit, LONGEST, UNIT, YARD } from './length.js';
export { needleSize, needleText, weightsAt, YARN_WEIGHTS } from './trade.js';
export { numberTyped, type Typed, typedLength, typedNeedle, typedNumber, typedText } from './typed.js';
