//! How far the post has to travel.

/// The travel of the post at which the knee's `error` vanishes, from the error at none: a few secant steps, since the
/// knee answers the post almost evenly. `None` when it does not settle.
pub(crate) fn post_travel(at_zero: f64, error: impl Fn(f64) -> Option<f64>) -> Option<f64> {
    /// About what a mm of saddle does to the knee.
    const DEGREES_A_MM: f64 = -0.4;
    let (mut last, mut last_error) = (0.0, at_zero);
    let mut travel = -at_zero / DEGREES_A_MM;
    for _ in 0..12 {
        if travel.abs() > 150.0 {
            return None;
        }
        let here = error(travel)?;
        if here.abs() < 0.01 {
            return Some(travel);
        }
        let slope = (here - last_error) / (travel - last);
        // A leg beyond its reach no longer answers: go on at the usual rate until it does.
        let slope = if slope < -0.05 { slope } else { DEGREES_A_MM };
        (last, last_error) = (travel, here);
        travel -= here / slope;
    }
    None
}
