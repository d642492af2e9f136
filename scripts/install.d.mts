export function ensureBuild(options?: { quiet?: boolean }): void;
