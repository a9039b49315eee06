using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;
using Walkdown.Core.Plates;

namespace Walkdown.Verify;

/// <summary>Topics N, pictures, and O, number plates: names and shapes only.</summary>
internal static class PictureOperations
{
    public static readonly IReadOnlyDictionary<string, Operations.Operation> Pictures = new Dictionary<string, Operations.Operation>
    {
        ["slanted_edge"] = i =>
        {
            var picture = i.Picture("image");
            string[] region = ["x", "y", "width", "height"];
            if (region.Any(i.Has))
            {
                var (x, y, w, h) = (i.Whole("x"), i.Whole("y"), i.Whole("width"), i.Whole("height"));
                Require.Number(w, "width", 16, picture.Width);
                Require.Number(h, "height", 16, picture.Height);
                picture = picture.Cut(x, y, w, h);
            }
            var r = SlantedEdge.Of(picture);
            return r.Verdict == EdgeVerdict.Ok
                ? new
                {
                    verdict = r.Verdict,
                    mtf50_cycles_per_pixel = r.Mtf50,
                    edge_angle_abs_deg = r.AngleDeg,
                    edge_is_nearly = r.IsNearlyHorizontal ? "horizontal" : "vertical",
                    over_nyquist = r.IsOverNyquist,
                }
                : new { verdict = r.Verdict };
        },
        ["sharpness"] = i =>
        {
            var r = Sharpness.Of(i.Picture("image"));
            return new
            {
                mean_grey = r.MeanGrey,
                gradient_energy = r.GradientEnergy,
                laplacian_variance = r.LaplacianVariance,
                gradient_energy_normalised = r.GradientNormalised,
                laplacian_variance_normalised = r.LaplacianNormalised,
            };
        },
        ["tile_map"] = i =>
        {
            var r = SharpnessMap.Of(i.Picture("image"), i.Whole("rows"), i.Whole("cols"));
            return new
            {
                tiles = r.Tiles,
                median = r.Median,
                sharpest_row_col = (int[])[r.Sharpest.Row, r.Sharpest.Column],
                softest_row_col = (int[])[r.Softest.Row, r.Softest.Column],
            };
        },
        ["best_focus"] = i =>
        {
            var r = FocusSweep.Of(
                [.. i.Numbers("positions").Select(n => n.Value)],
                [.. i.Numbers("sharpness_values").Select(n => n.Value)]
            );
            return new
            {
                verdict = r.Verdict,
                best_position = r.Position,
                peak_value = r.Peak,
            };
        },
        ["compare_focus"] = i =>
        {
            var r = FocusComparison.Of(i.Picture("before_image"), i.Picture("after_image"), i.Number("allowed_loss_percent", 15));
            return new { verdict = r.Verdict, ratio = r.Ratio };
        },
        ["exposure"] = i =>
        {
            var r = Exposure.Of(i.Picture("image"), i.OptionalWhole("dark_at") ?? 5, i.OptionalWhole("bright_at") ?? 250);
            return new
            {
                under_percent = r.UnderPercent,
                over_percent = r.OverPercent,
                mean_grey = r.MeanGrey,
                percentile_5 = r.Percentile5,
                percentile_95 = r.Percentile95,
                rms_contrast = r.Contrast,
                findings = r.Findings,
            };
        },
        ["haze"] = i =>
        {
            var r = Haze.Of(i.Picture("image"), i.Number("ring_fraction", 0.2), i.Number("raised_at", 45), i.Number("difference_at", 15));
            return new
            {
                black_levels = new
                {
                    centre = r.Centre,
                    ring = r.Ring,
                    left = r.Left,
                    right = r.Right,
                    top = r.Top,
                    bottom = r.Bottom,
                    whole = r.Whole,
                },
                findings = r.Findings,
            };
        },
        ["noise"] = i =>
        {
            var r = PictureNoise.Of(i.Picture("image"), i.OptionalWhole("rows") ?? 6, i.OptionalWhole("cols") ?? 8);
            return new
            {
                sigma_tiles_grey = r.SigmaTiles,
                sigma_whole_grey = r.SigmaWhole,
                signal_to_noise_db = r.SignalDb,
            };
        },
        ["blocked"] = i =>
        {
            var r = Blocked.Of(
                i.Picture("reference_image"),
                i.Picture("new_image"),
                i.OptionalWhole("rows") ?? 9,
                i.OptionalWhole("cols") ?? 16,
                i.Number("flat_below", 4),
                i.Number("reference_detail_above", 8)
            );
            return new
            {
                tiles_with_detail = r.WithDetail,
                tiles_blocked = r.Tiles.Length,
                blocked_percent_of_detail = r.PercentOfDetail,
                blocked_percent_of_picture = r.PercentOfPicture,
            };
        },
        ["register"] = i =>
        {
            var (reference, now) = (i.Picture("reference_image"), i.Picture("new_image"));
            var field = i.OptionalNumber("horizontal_fov_deg");
            if (field is { } deg)
                Walkdown.Core.Optics.Pinhole.FocalPixels(reference.Width, deg);
            var r = PictureRegistration.Of(reference, now);
            if (!r.IsMatch)
                return new { verdict = "no_match" };
            var told = new Dictionary<string, object>
            {
                ["verdict"] = "ok",
                ["shift_x_px"] = r.ShiftX,
                ["shift_y_px"] = r.ShiftY,
                ["rotation_clockwise_deg"] = r.TurnDeg,
                ["scale"] = r.Scale,
                ["correlation"] = r.Correlation,
            };
            if (field is { } wide)
                (told["pan_change_deg"], told["tilt_change_deg"]) = r.CameraTurn(reference.Width, wide);
            return told;
        },
        ["orientation"] = i => new { orientation = PictureOrientation.Of(i.Picture("reference_image"), i.Picture("new_image")).Is },
    };

    public static readonly IReadOnlyDictionary<string, Operations.Operation> Plates = new Dictionary<string, Operations.Operation>(
        RecordingOperations.Plates
    )
    {
        ["plate_geometry"] = i =>
        {
            var r = PlateGeometry.Of(
                i.Whole("pixels_wide"),
                i.Number("horizontal_fov_deg"),
                i.Number("plate_width_m"),
                i.Number("camera_height_m"),
                i.Number("plate_height_m"),
                i.Number("ground_distance_m"),
                i.Number("lateral_offset_m"),
                i.Number("max_combined_deg", 30),
                i.Number("min_plate_px", 130)
            );
            return new
            {
                slant_m = r.SlantMetres,
                horizontal_angle_deg = r.HorizontalDeg,
                vertical_angle_deg = r.VerticalDeg,
                combined_angle_deg = r.CombinedDeg,
                pixels_per_m = r.PixelsPerMetre,
                plate_width_px = r.PlatePixels,
                findings = (string[])
                    [.. r.IsAngleHigh ? new[] { "combined_angle_high" } : [], .. r.IsPlateSmall ? new[] { "plate_too_small" } : []],
            };
        },
        ["motion_blur"] = i =>
        {
            var r = MotionBlur.Of(
                i.Number("pixels_per_m"),
                i.Number("speed_kmh"),
                i.Number("exposure_s"),
                i.Number("angle_deg"),
                i.Number("max_blur_px")
            );
            return new
            {
                blur_px = r.Pixels,
                longest_exposure_s = r.LongestSeconds,
                in_limit = r.IsWithin,
            };
        },
        ["frames_in_zone"] = i =>
        {
            var r = FramesInZone.Of(
                i.Number("zone_length_m"),
                i.Number("speed_kmh"),
                i.Number("frames_per_s"),
                i.OptionalWhole("wanted_frames") ?? 3
            );
            return new
            {
                seconds_in_zone = r.Seconds,
                frames_at_least = r.AtLeast,
                frames_at_most = r.AtMost,
                highest_speed_kmh = r.HighestKmPerHour,
                enough = r.IsEnough,
            };
        },
        ["repeat_records"] = i =>
        {
            var r = RepeatRecords.Of(
                [.. i.List("passes").Select(p => new PlatePass(p.Text("plate"), p.Number("at_s")))],
                i.Number("interval_s"),
                i.Word<RepeatRule>("rule")
            );
            return new
            {
                records = r.Recorded.Length,
                recorded_passes = r.Recorded,
                per_plate = r.PerPlate,
            };
        },
        ["read_rate"] = i =>
        {
            var r = ReadRate.Of(i.Whole("passes"), i.Whole("read_right"), i.Number("required_percent"), i.Number("z", 1.959964));
            return new
            {
                rate_percent = r.Percent,
                low_percent = r.LowPercent,
                high_percent = r.HighPercent,
                verdict = r.Verdict,
            };
        },
        ["passes_needed"] = i =>
        {
            var (passes, chance) = ReadRate.Needed(i.Number("required_percent"), i.Number("confidence_percent"), i.Whole("allowed_misses"));
            return new { passes, chance_of_passing_at_the_required_rate_percent = chance };
        },
    };
}
