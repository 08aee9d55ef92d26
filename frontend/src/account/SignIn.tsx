import { useState } from "react";
import { api, Problem, type Account } from "../api/client";
import { GroundBand } from "./GroundBand";
import { ThemeButton } from "../ui/ThemeButton";

/** Name and password; a first visit makes an account. */
export function SignIn({ enter }: { enter: (account: Account) => void }) {
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [wrong, setWrong] = useState("");
  const submit = async (how: typeof api.enter) => {
    try {
      enter(await how(name, password));
    } catch (error) {
      setWrong(error instanceof Problem ? error.message : String(error));
    }
  };
  return (
    <div className="flex min-h-full flex-col">
      <main className="mx-auto flex max-w-md flex-1 flex-col justify-center gap-5 p-6">
        <div>
          <h1 className="text-[30px] leading-9 font-semibold">Open Furrow</h1>
          <p>
            Plan a ground-mount array from the site to the building: depths, cuts, wire, stakes, and the working behind
            each number.
          </p>
        </div>
        <form
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void submit(api.enter);
          }}
        >
          <label className="flex flex-col gap-1">
            <span className="font-semibold">Name</span>
            <input
              className="input w-full"
              autoComplete="username"
              required
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </label>
          <label className="flex flex-col gap-1">
            <span className="font-semibold">Password</span>
            <input
              className="input w-full"
              type="password"
              autoComplete="current-password"
              required
              value={password}
              onChange={(event) => setPassword(event.target.value)}
            />
          </label>
          {wrong && (
            <p role="alert" className="text-error">
              {wrong}
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            <button type="submit" className="btn btn-primary">
              Sign in
            </button>
            <button type="button" className="btn" onClick={() => void submit(api.join)}>
              Make an account
            </button>
            <ThemeButton />
          </div>
        </form>
        <p className="text-secondary text-[13px]">
          The demo's name and password stand where the application was started. Plans are for review by the people
          licensed where the array stands; local code decides.
        </p>
      </main>
      <GroundBand />
    </div>
  );
}
