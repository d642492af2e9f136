/** Stands for all files that the pages are made of (vite.config.ts). */
declare const __BUILD__: string;
