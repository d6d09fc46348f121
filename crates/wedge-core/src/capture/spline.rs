//! Natural cubic splines, and a fast way from frames to whole degrees.

/// A natural cubic spline through points of growing `x` (de Boor, A Practical Guide to Splines, 1978, ch. IV).
#[derive(Debug, Clone)]
pub(crate) struct Spline {
    x: Vec<f64>,
    y: Vec<f64>,
    /// Second derivatives at the points.
    bend: Vec<f64>,
}

impl Spline {
    /// Through at least two points, `x` strictly growing.
    pub(crate) fn through(x: Vec<f64>, y: Vec<f64>) -> Option<Self> {
        let n = x.len();
        if n < 2 || y.len() != n || x.windows(2).any(|pair| pair[1] <= pair[0]) {
            return None;
        }
        let mut bend = vec![0.0; n];
        let mut above = vec![0.0; n];
        for i in 1..n - 1 {
            let (before, after) = (x[i] - x[i - 1], x[i + 1] - x[i]);
            let jump = 6.0 * ((y[i + 1] - y[i]) / after - (y[i] - y[i - 1]) / before);
            let pivot = 2.0 * (before + after) - before * above[i - 1];
            above[i] = after / pivot;
            bend[i] = (jump - before * bend[i - 1]) / pivot;
        }
        for i in (1..n - 1).rev() {
            bend[i] -= above[i] * bend[i + 1];
        }
        Some(Self { x, y, bend })
    }

    /// The value at `at`; beyond the ends the end pieces go on.
    pub(crate) fn at(&self, at: f64) -> f64 {
        let last = self.x.len() - 2;
        let piece = self
            .x
            .partition_point(|x| *x <= at)
            .saturating_sub(1)
            .min(last);
        let width = self.x[piece + 1] - self.x[piece];
        let (far, near) = (
            (self.x[piece + 1] - at) / width,
            (at - self.x[piece]) / width,
        );
        far * self.y[piece]
            + near * self.y[piece + 1]
            + ((far.powi(3) - far) * self.bend[piece]
                + (near.powi(3) - near) * self.bend[piece + 1])
                * width
                * width
                / 6.0
    }
}

/// A path through places of so many coordinates, each a spline of its own.
#[derive(Debug, Clone)]
pub(crate) struct Curve<const N: usize>(Vec<Spline>);

impl<const N: usize> Curve<N> {
    /// Through at least two places, `x` strictly growing.
    pub(crate) fn through(x: &[f64], places: &[[f64; N]]) -> Option<Self> {
        let of = |axis: usize| {
            let y = places.iter().map(|place| place[axis]).collect();
            Spline::through(x.to_vec(), y)
        };
        (0..N).map(of).collect::<Option<Vec<_>>>().map(Self)
    }

    /// The place at `at`; beyond the ends the end pieces go on.
    pub(crate) fn at(&self, at: f64) -> [f64; N] {
        std::array::from_fn(|axis| self.0[axis].at(at))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_spline_goes_through_its_points_and_follows_a_sine_between_them() {
        let x: Vec<f64> = (0..40).map(|i| f64::from(i) * 0.2).collect();
        let y: Vec<f64> = x.iter().map(|x| x.sin()).collect();
        let spline = Spline::through(x.clone(), y.clone()).unwrap();
        for (x, y) in x.iter().zip(&y) {
            assert!((spline.at(*x) - y).abs() < 1e-12);
        }
        assert!((spline.at(3.1) - 3.1_f64.sin()).abs() < 2e-5);
    }

    #[test]
    fn without_growth_there_is_no_spline() {
        assert!(Spline::through(vec![0.0, 0.0], vec![1.0, 2.0]).is_none());
        assert!(Spline::through(vec![0.0], vec![1.0]).is_none());
    }
}
