export { accessCode, localAddresses } from "./access";
export { makeApp } from "./app";
export { seedDemo } from "./demo/seed";
export { movePictures } from "./files";
