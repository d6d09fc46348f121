//! What a fit is for: what matters first, what next.

use crate::measure::{Refusal, mean};
use crate::words::words;
use serde::{Deserialize, Serialize};

words! {
    /// What a fit can be for.
    pub enum Goal {
        Comfort "comfort" "Comfort",
        Injury "injury" "Freedom from injury",
        Power "power" "Power",
        Speed "speed" "Speed through air",
    }
}

/// The goals in order, what matters first at the front; those of one rank matter alike. Empty when nobody has said.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(transparent)]
pub struct Goals(pub Vec<Vec<Goal>>);

impl Goals {
    /// What the places of an order count for where goals are weighed, first to last, of 10. House.
    pub const PLACES: [f64; 4] = [8.0, 6.0, 4.0, 2.0];

    /// The order that scores stand for: the higher first, like ones side by side; nothing where none was scored.
    pub fn of_scores(scores: [(Goal, u8); 4]) -> Self {
        let mut ranks: Vec<(u8, Vec<Goal>)> = Vec::new();
        for (goal, score) in scores {
            match ranks.iter_mut().find(|(of, _)| *of == score) {
                Some((_, alike)) => alike.push(goal),
                None => ranks.push((score, vec![goal])),
            }
        }
        if ranks.len() == 1 && ranks[0].0 == 0 {
            return Self::default();
        }
        ranks.sort_by_key(|(score, _)| std::cmp::Reverse(*score));
        Self(ranks.into_iter().map(|(_, alike)| alike).collect())
    }

    /// What a goal counts for: its place's, or the mean of the places that goals of one rank share. All alike while
    /// nobody has said.
    pub fn weight(&self, goal: Goal) -> f64 {
        let mean = |places: &[f64]| mean(places).unwrap_or_default();
        let mut first = 0;
        for rank in &self.0 {
            let after = (first + rank.len()).min(Self::PLACES.len());
            if rank.contains(&goal) && first < after {
                return mean(&Self::PLACES[first..after]);
            }
            first = after;
        }
        mean(&Self::PLACES)
    }

    /// Refused unless it is empty or names every goal once.
    pub(super) fn refusal(&self, at: &str) -> Option<Refusal> {
        let named: Vec<Goal> = self.0.iter().flatten().copied().collect();
        let once = Goal::ALL
            .iter()
            .all(|goal| named.iter().filter(|g| *g == goal).count() == 1);
        let whole = once && self.0.iter().all(|rank| !rank.is_empty());
        (!whole && !self.0.is_empty()).then(|| {
            Refusal::new(
                format!("{at}/goals"),
                "An order of goals names each of the four once",
            )
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use Goal::{Comfort, Injury, Power, Speed};

    #[test]
    fn places_count_eight_six_four_two_and_ties_their_mean() {
        let order = Goals(vec![vec![Power], vec![Comfort, Injury], vec![Speed]]);
        let weights: Vec<f64> = Goal::ALL.iter().map(|g| order.weight(*g)).collect();
        assert_eq!(weights, [5.0, 5.0, 8.0, 2.0]);
        let nothing = Goals::default();
        assert!(
            Goal::ALL
                .iter()
                .all(|g| (nothing.weight(*g) - 5.0).abs() < 1e-12)
        );
        // What is shared out is the same whatever is tied.
        let two = Goals(vec![vec![Speed, Power], vec![Injury, Comfort]]);
        assert_eq!((two.weight(Speed), two.weight(Comfort)), (7.0, 3.0));
    }

    #[test]
    fn scores_become_the_order_they_stood_for() {
        let scored =
            |c, i, p, s| Goals::of_scores([(Comfort, c), (Injury, i), (Power, p), (Speed, s)]);
        assert_eq!(
            scored(8, 8, 3, 0),
            Goals(vec![vec![Comfort, Injury], vec![Power], vec![Speed]])
        );
        assert_eq!(scored(0, 0, 0, 0), Goals::default());
        assert_eq!(scored(5, 5, 5, 5), Goals(vec![Goal::ALL.to_vec()]));
    }

    #[test]
    fn an_order_names_each_goal_once() {
        let wrong = [
            vec![vec![Comfort]],
            vec![vec![Comfort, Comfort], vec![Power, Speed, Injury]],
            vec![vec![], vec![Comfort, Power, Speed, Injury]],
            vec![vec![]],
        ];
        for order in wrong {
            let refusal = Goals(order.clone()).refusal("/intake");
            assert_eq!(
                refusal.map(|r| r.pointer).as_deref(),
                Some("/intake/goals"),
                "{order:?}"
            );
        }
        assert_eq!(Goals::default().refusal(""), None);
        assert_eq!(Goals(vec![Goal::ALL.to_vec()]).refusal(""), None);
    }
}
