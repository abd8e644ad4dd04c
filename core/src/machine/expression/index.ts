export { checkExpression, type ExpressionProblem } from './check';
export { Compiler, type Reading, TICKS, type View } from './evaluate';
export { parseExpression } from './parse';
export { type Comparison, type Expression, ExpressionError, type Measure, type Unit, UNITS } from './syntax';
export { type Meaning, meantWords, type Vocabulary } from './vocabulary';
