import "./rider.css";
import { chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { words } from "../api/client";
import { catalogueQuery, rulesQuery } from "../api/queries";
import { Page } from "../ui/Page";
import { TextField } from "../ui/TextField";
import { labelOf } from "../ui/labelOf";

/** Where every number comes from: the core's own table of rules, ranges and constants. */
export default function RulesPage() {
  const rules = useQuery(rulesQuery);
  const catalogue = useQuery(catalogueQuery);
  const [find, setFind] = useState("");
  const wanted = find.trim().toLowerCase();
  const shown = (rules.data ?? []).filter((rule) =>
    [rule.topic, rule.what, rule.value, rule.source].some((text) => text.toLowerCase().includes(wanted)),
  );
  const topics = [...new Set(shown.map((rule) => rule.topic))];
  const rests = (key: string) => labelOf(catalogue.data?.words.provenance ?? [], key);
  return (
    <Page title="Where every number comes from">
      <Flex gap="24px" fontSize="16px" color="tide" textDecoration="underline">
        <Link to="/">Back to the room</Link>
        <Link to="/studio">Studio</Link>
        <Link to="/judging">How the next move is judged</Link>
      </Flex>
      <Flex justify="space-between" align="end" gap="24px" wrap="wrap">
        <chakra.h1 fontSize="29px">Where every number comes from</chakra.h1>
        <TextField label="Find a rule" value={find} onChange={setFind} inputMode="search" />
      </Flex>
      <p className="number-hint">
        Published: from the literature. Workshop rule: the trade’s. House choice: Wedge’s own, where the trade gives
        none. Ranges can be changed in the studio.
      </p>
      {rules.error && <p className="number-error">{words(rules.error)}</p>}
      {rules.data && shown.length === 0 && <p>No rule holds “{find}”.</p>}
      {topics.map((topic) => (
        <section key={topic} aria-label={topic}>
          <h2>{topic}</h2>
          <table className="rows rules">
            <tbody>
              {shown
                .filter((rule) => rule.topic === topic)
                .map((rule) => (
                  <tr key={`${rule.what}${rule.value}`}>
                    <th scope="row">{rule.what}</th>
                    <td className="after">{rule.value}</td>
                    <td className="source">
                      {rests(rule.provenance)}
                      {rule.source !== "" && `: ${rule.source}`}
                    </td>
                  </tr>
                ))}
            </tbody>
          </table>
        </section>
      ))}
    </Page>
  );
}
