/** Lists whose things stand in one place each, by east and north. */
export const PLACED: readonly string[] = ["site.test_holes", "site.load_tests"];
