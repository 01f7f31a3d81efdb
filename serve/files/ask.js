// guide.ask sends a request of a page for a change, and gives the answer, or says what is wrong.
"use strict";
guide.ask = async (name, request) => {
  const r = await fetch("/-/edit/" + name, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(request) });
  const answer = await r.json().catch(() => ({ error: "the server does not answer" }));
  if (!r.ok) throw new Error(answer.error + (answer.hint ? ". " + answer.hint : ""));
  return answer;
};
