/** What Tidy Slate knows about itself, by concern. What owners design lives in schema `records`. */
export { slate } from './schema/base';
export * from './schema/people';
export * from './schema/tables';
export * from './schema/forms';
export * from './schema/imports';
export * from './schema/directory';
export * from './schema/files';
export * from './schema/notices';
export * from './schema/tokens';
export * from './schema/outside';
export * from './schema/events';
export * from './schema/trail';
