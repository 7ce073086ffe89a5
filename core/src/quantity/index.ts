export * from './band';
export * from './format';
export * from './gauge';
export * from './parse';
export * from './result';
export * from './round';
export * from './temperature';
export * from './uncertainty';
