import { built } from "./built";
import { startPostgres } from "./postgres";

/** Runs the API tests on a PostgreSQL server in the place of the embedded database. */
export default async function setup(): Promise<() => void> {
  built();
  const server = await startPostgres();
  process.env.ULTRAFORM_TEST_DATABASE = server.url;
  return server.stop;
}
