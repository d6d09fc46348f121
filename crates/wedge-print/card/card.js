// @ts-check
"use strict";
(() => {
  /** @typedef {{rating: string, side?: string, value: number}} Rated */
  /** @typedef {{id: string, on: string, circuit?: string, minutes?: number, effort?: number, power_w?: number, cadence_rpm?: number, recorded?: boolean, plan: number, step: number, moved: string[], ratings: Rated[], signs: string[], words?: string}} Ride */

  /** @template {HTMLElement} T @param {string} id @param {new () => T} kind @returns {T} */
  const part = (id, kind) => {
    const found = document.getElementById(id);
    if (!(found instanceof kind)) throw new Error(id);
    return found;
  };
  const input = (/** @type {string} */ id) => part(id, HTMLInputElement);
  const select = (/** @type {string} */ id) => part(id, HTMLSelectElement);
  const box = (/** @type {string} */ id) => part(id, HTMLElement);
  /** @param {string} tag @param {string} [text] */
  const made = (tag, text) => {
    const element = document.createElement(tag);
    if (text !== undefined) element.textContent = text;
    return element;
  };
  /** @param {string} id @param {string} text */
  const say = (id, text) => {
    box(id).textContent = text;
    box(id).hidden = text === "";
  };

  const card = JSON.parse(box("card").textContent ?? "");
  const key = `wedge-card-${card.fit}`;

  // What a phone's viewer keeps: some keep nothing, and say so only when asked.
  const keeps = (() => {
    try {
      localStorage.setItem(`${key}-try`, "1");
      const kept = localStorage.getItem(`${key}-try`) === "1";
      localStorage.removeItem(`${key}-try`);
      return kept;
    } catch {
      return false;
    }
  })();
  if (!keeps)
    say("keeps", "This viewer keeps nothing: open the card in a browser, or copy your rides as text before you close it.");

  /** @type {Ride[]} */
  let rides = [];
  try {
    const kept = keeps ? JSON.parse(localStorage.getItem(key) ?? "[]") : [];
    if (Array.isArray(kept)) rides = kept;
  } catch {
    say("keeps", "What was kept here cannot be read any more. Rides from now on are kept.");
  }
  /** @type {Ride | undefined} */
  let editing;

  const write = () => {
    if (!keeps) return;
    try {
      localStorage.setItem(key, JSON.stringify(rides));
    } catch {
      say("keeps", "There is no room to keep this: copy your rides as text before you close the card.");
    }
  };

  const newId = () => {
    const bytes = crypto.getRandomValues(new Uint8Array(16));
    bytes[6] = (bytes[6] & 0x0f) | 0x40;
    bytes[8] = (bytes[8] & 0x3f) | 0x80;
    const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, "0")).join("");
    return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
  };
  const today = () => {
    const now = new Date();
    const two = (/** @type {number} */ n) => String(n).padStart(2, "0");
    return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
  };
  /** Which step stands on a day, from 1; 0 before the first. @param {string} on */
  const stepOn = (on) => card.steps.filter((/** @type {{on: string}} */ step) => step.on <= on).length;

  // What stands on the card.
  box("who").textContent = card.rider;
  box("what").textContent = [card.studio, card.bike].filter((words) => words !== "").join(" · ");
  document.title = `Ride card, ${card.rider}`;
  box("now").textContent =
    card.paused ??
    (card.steps.length === 0
      ? "Ride as you were fitted; nothing is planned to move."
      : stepOn(today()) === 0
        ? "As you were fitted, until the first step."
        : `Step ${stepOn(today())} of ${card.steps.length} today.`);
  card.steps.forEach((/** @type {{line: string}} */ step, /** @type {number} */ index) => {
    const line = made("li", step.line);
    if (index + 1 === stepOn(today())) line.setAttribute("aria-current", "step");
    box("steps").append(line);
  });
  for (const rule of card.rules) {
    const felt = made("dt", rule.felt);
    if (rule.stops) felt.className = "stops";
    box("rules").append(felt, made("dd", rule.then));
  }
  for (const test of card.tests) {
    box("tests").append(made("h3", test.title));
    const lines = made("ul");
    for (const line of test.lines) lines.append(made("li", line));
    box("tests").append(lines);
  }
  for (const caution of card.cautions) box("cautions").append(made("p", caution));

  /** @param {HTMLSelectElement} at @param {[string, string][]} options */
  const fill = (at, options) => {
    for (const [value, words] of options) {
      const option = document.createElement("option");
      option.value = value;
      option.textContent = words;
      at.append(option);
    }
  };
  /** @param {number} most @returns {[string, string][]} */
  const scale = (most) => [
    ["", "–"],
    ...Array.from({ length: most + 1 }, (_, n) => /** @type {[string, string]} */ ([String(n), String(n)])),
  ];
  fill(select("effort"), scale(10));
  fill(select("step"), [
    ["0", "as fitted"],
    ...card.steps.map((/** @type {{title: string}} */ step, /** @type {number} */ n) => [String(n + 1), `${n + 1}: ${step.title}`]),
  ]);
  for (const rating of card.ratings) {
    const row = made("div");
    row.className = "rated";
    row.append(made("span", rating.scale === "" ? rating.label : `${rating.label}: ${rating.scale}`));
    for (const side of rating.per_side ? ["left", "right"] : [""]) {
      const name = side === "" ? rating.label : `${rating.label}, ${side}`;
      const choice = document.createElement("select");
      choice.id = `${rating.key}-${side}`;
      choice.setAttribute("aria-label", name);
      fill(choice, scale(rating.most));
      const label = made("label", side);
      label.append(choice);
      row.append(label);
    }
    box("ratings").append(row);
  }
  /** @param {string} within @param {string} name @param {string} words */
  const check = (within, name, words) => {
    const label = made("label");
    label.className = "check";
    const tick = document.createElement("input");
    tick.type = "checkbox";
    tick.id = `${within}-${name}`;
    label.append(tick, words);
    box(within).append(label);
  };
  for (const move of card.moves) check("moved", move.key, move.label);
  box("moved").hidden = card.moves.length === 0;
  for (const rule of card.rules) check("signs", rule.sign, rule.felt);
  box("signs").addEventListener("change", () => {
    const ticked = card.rules.filter((/** @type {{sign: string}} */ rule) => input(`signs-${rule.sign}`).checked);
    say("then", ticked.map((/** @type {{felt: string, then: string}} */ rule) => `${rule.felt}: ${rule.then}`).join(" "));
  });

  const ratingFields = () =>
    card.ratings.flatMap((/** @type {{key: string, per_side: boolean}} */ rating) =>
      (rating.per_side ? ["left", "right"] : [""]).map((side) => ({ rating: rating.key, side, at: select(`${rating.key}-${side}`) })),
    );

  /** @param {Ride} [ride] */
  const show = (ride) => {
    editing = ride;
    input("on").value = ride?.on ?? today();
    input("minutes").value = ride?.minutes === undefined ? "" : String(ride.minutes);
    input("circuit").value = ride?.circuit ?? rides[rides.length - 1]?.circuit ?? "";
    select("effort").value = ride?.effort === undefined ? "" : String(ride.effort);
    select("step").value = String(ride?.step ?? stepOn(today()));
    input("power").value = ride?.power_w === undefined ? "" : String(ride.power_w);
    input("cadence").value = ride?.cadence_rpm === undefined ? "" : String(ride.cadence_rpm);
    for (const field of ratingFields()) {
      const rated = ride?.ratings.find((r) => r.rating === field.rating && (r.side ?? "") === field.side);
      field.at.value = rated === undefined ? "" : String(rated.value);
    }
    for (const move of card.moves) input(`moved-${move.key}`).checked = ride?.moved.includes(move.key) ?? false;
    for (const rule of card.rules) input(`signs-${rule.sign}`).checked = ride?.signs.includes(rule.sign) ?? false;
    part("words", HTMLTextAreaElement).value = ride?.words ?? "";
    say("then", "");
    box("leave").hidden = ride === undefined;
    box("keep").textContent = ride === undefined ? "Keep this ride" : "Keep it so";
  };

  const list = () => {
    const at = box("rides");
    at.replaceChildren();
    box("none").hidden = rides.length > 0;
    const circuits = box("circuits");
    circuits.replaceChildren();
    for (const circuit of new Set(rides.map((ride) => ride.circuit ?? ""))) {
      if (circuit === "") continue;
      const option = document.createElement("option");
      option.value = circuit;
      circuits.append(option);
    }
    for (const ride of [...rides].sort((a, b) => (a.on < b.on ? 1 : -1))) {
      const told = [ride.on, ride.circuit, ride.minutes === undefined ? "" : `${ride.minutes} min`, ride.words];
      const line = made("li", told.filter((words) => words !== undefined && words !== "").join(" · "));
      const change = made("button", "Change");
      change.className = "plain";
      change.setAttribute("aria-label", `Change the ride of ${ride.on}`);
      change.addEventListener("click", () => {
        show(ride);
        input("on").focus();
      });
      const out = made("button", "Take out");
      out.className = "plain";
      out.setAttribute("aria-label", `Take out the ride of ${ride.on}`);
      out.addEventListener("click", () => {
        rides = rides.filter((other) => other !== ride);
        write();
        list();
        if (editing === ride) show();
      });
      line.append(made("br"), change, out);
      at.append(line);
    }
    const worst = rides
      .filter((ride) => card.since === null || ride.on >= card.since)
      .flatMap((ride) => card.rules.filter((/** @type {{sign: string, stops: boolean}} */ rule) => rule.stops && ride.signs.includes(rule.sign)));
    say("stopped", worst.length === 0 ? "" : `The plan waits. ${worst[0].felt}: ${worst[0].then}`);
  };

  /** A number typed, none when left empty. @param {string} id @param {number} least @param {number} most */
  const typed = (id, least, most) => {
    const text = input(id).value.trim().replace(",", ".");
    const value = text === "" ? undefined : Number(text);
    const wrong = value !== undefined && !(value >= least && value <= most);
    say(`wrong-${id}`, wrong ? `A number from ${least} to ${most}, or nothing.` : "");
    input(id).setAttribute("aria-invalid", String(wrong));
    return { value, wrong };
  };

  part("ride", HTMLFormElement).addEventListener("submit", (event) => {
    event.preventDefault();
    const on = input("on").value;
    const late = on > today();
    say("wrong-on", on === "" ? "Say the day." : late ? "This day has not come yet." : "");
    const [minutes, power, cadence] = [typed("minutes", 1, 1440), typed("power", 1, 2000), typed("cadence", 20, 200)];
    const bad = on === "" || late ? "on" : minutes.wrong ? "minutes" : power.wrong ? "power" : cadence.wrong ? "cadence" : undefined;
    if (bad !== undefined) {
      input(bad).focus();
      return;
    }
    const effort = select("effort").value;
    const [circuit, words] = [input("circuit").value.trim(), part("words", HTMLTextAreaElement).value.trim()];
    /** @type {Ride} */
    const ride = {
      id: editing?.id ?? newId(),
      on,
      ...(circuit !== "" && { circuit }),
      ...(minutes.value !== undefined && { minutes: minutes.value }),
      ...(effort !== "" && { effort: Number(effort) }),
      ...(power.value !== undefined && { power_w: power.value }),
      ...(cadence.value !== undefined && { cadence_rpm: cadence.value }),
      plan: editing?.plan ?? card.plan,
      step: Number(select("step").value),
      moved: card.moves.map((/** @type {{key: string}} */ move) => move.key).filter((/** @type {string} */ move) => input(`moved-${move}`).checked),
      ratings: ratingFields()
        .filter((/** @type {{at: HTMLSelectElement}} */ field) => field.at.value !== "")
        .map((/** @type {{rating: string, side: string, at: HTMLSelectElement}} */ field) => ({
          rating: field.rating,
          ...(field.side !== "" && { side: field.side }),
          value: Number(field.at.value),
        })),
      signs: card.rules.map((/** @type {{sign: string}} */ rule) => rule.sign).filter((/** @type {string} */ sign) => input(`signs-${sign}`).checked),
      ...(words !== "" && { words }),
    };
    rides = [...rides.filter((other) => other.id !== ride.id), ride];
    write();
    list();
    show();
    say("said", keeps ? "Kept on this phone. Send it back before the next visit." : "On the card until you close it: copy it as text.");
  });
  box("leave").addEventListener("click", () => show());

  const text = () => JSON.stringify({ format: "wedge.ledger/1", fit: card.fit, rides }, undefined, 1);
  box("file").addEventListener("click", () => {
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text()], { type: "application/json" }));
    link.download = `rides-${today()}.json`;
    link.click();
    say("said", "The file is where your phone keeps what it loads: send it to the studio.");
  });
  box("copy").addEventListener("click", () => {
    const shown = part("text", HTMLTextAreaElement);
    shown.value = text();
    shown.hidden = false;
    shown.select();
    navigator.clipboard?.writeText(shown.value).then(
      () => say("said", "Copied: paste it into a message to the studio."),
      () => say("said", "Copy the text below into a message to the studio."),
    );
    if (navigator.clipboard === undefined) say("said", "Copy the text below into a message to the studio.");
  });
  if (card.send !== null) {
    box("send").hidden = false;
    box("send").addEventListener("click", () => {
      fetch(card.send, { method: "POST", headers: { "content-type": "application/json" }, body: text() }).then(
        async (response) => {
          const problem = response.ok ? undefined : await response.json().catch(() => undefined);
          say("said", response.ok ? "The studio has your rides." : (problem?.detail ?? problem?.title ?? "The studio did not take it."));
        },
        () => say("said", "The studio cannot be reached from here: get the file, and send it."),
      );
    });
  }
  show();
  list();
})();
