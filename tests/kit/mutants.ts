import fc from "fast-check";

// A mutant that survives a law tried on twenty cases would mostly survive it on a hundred, and there are thousands of mutants.
fc.configureGlobal({ numRuns: 20 });
