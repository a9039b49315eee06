using System.Globalization;
using System.Text.Json;
using Walkdown.Core.Aiming;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Clocks;
using Walkdown.Core.Measures;
using Walkdown.Core.Optics;

namespace Walkdown.Verify;

/// <summary>Topics K, optics, L, aim, and M, sun: names and shapes only.</summary>
internal static class OpticsOperations
{
    private static readonly Dictionary<string, string> Uses = new()
    {
        ["intrusion_line"] = "analytics",
        ["people_counting_overhead"] = "counting",
        ["face_capture"] = "faces",
        ["number_plate"] = "plates",
    };

    /// <summary>Of the limit set that ships.</summary>
    private static readonly Lazy<Dictionary<string, double>> Figures = new(() =>
        Catalogue
            .Shipped.Select(f => JsonSerializer.Deserialize<CatalogueFile>(f.Json, Catalogue.Json)!)
            .SelectMany(f => f.LimitSet?.Figures ?? [])
            .ToDictionary(f => f.Id, f => f.Value)
    );

    public static readonly IReadOnlyDictionary<string, Operations.Operation> Optics = new Dictionary<string, Operations.Operation>
    {
        ["field_of_view"] = i =>
        {
            var r = Pinhole.FieldOf(i.Number("focal_length_mm"), i.Number("sensor_width_mm"), i.Number("sensor_height_mm"));
            return new
            {
                horizontal_fov_deg = r.HorizontalDeg,
                vertical_fov_deg = r.VerticalDeg,
                diagonal_fov_deg = r.DiagonalDeg,
            };
        },
        ["scene_width"] = i => new
        {
            scene_width_m = Pinhole.SceneWideMetres(i.Number("focal_length_mm"), i.Number("sensor_width_mm"), i.Number("distance_m")),
        },
        ["focal_length_for_scene"] = i => new
        {
            focal_length_mm = Pinhole.FocalMmFor(i.Number("scene_width_m"), i.Number("sensor_width_mm"), i.Number("distance_m")),
        },
        ["pixel_density"] = i =>
        {
            var r = PixelDensity.At(
                i.Whole("pixels_wide"),
                i.Number("horizontal_fov_deg"),
                i.Number("camera_height_m"),
                i.Number("target_height_m"),
                i.Number("ground_distance_m"),
                i.OptionalNumber("tilt_deg")
            );
            return new
            {
                slant_distance_m = r.SlantMetres,
                pixels_per_m = r.PerMetre,
                pixels_per_m_at_ground_distance_only = r.PerMetreByGround,
                look_down_deg = r.LookDownDeg,
                pixels_per_m_with_tilt = r.PerMetreTilted,
                vertical_pixels_per_m_on_an_upright_target = r.PerMetreUpright,
            };
        },
        ["task_level"] = i =>
        {
            var r = DetailLevels.Reached(i.Word<DetailEdition>("table"), i.Number("pixels_per_m"));
            return new
            {
                level = r.Level,
                next_level = r.Next,
                missing_pixels_per_m = r.MissingPerMetre,
            };
        },
        ["task_distances"] = i => new
        {
            levels = DetailLevels
                .Reaches(
                    i.Word<DetailEdition>("table"),
                    i.Whole("pixels_wide"),
                    i.Number("horizontal_fov_deg"),
                    i.Number("camera_height_m"),
                    i.Number("target_height_m")
                )
                .Select(l => new
                {
                    level = l.Level,
                    slant_m = l.SlantMetres,
                    ground_distance_m = l.GroundMetres,
                }),
        },
        ["coverage"] = i =>
        {
            var r = Coverage.Of(
                i.Number("camera_height_m"),
                i.Number("tilt_deg"),
                i.Number("vertical_fov_deg"),
                i.Number("target_height_m", 0)
            );
            return new
            {
                lower_edge_deg = r.LowerEdgeDeg,
                upper_edge_deg = r.UpperEdgeDeg,
                near_edge_m = r.NearMetres,
                far_edge_m = r.FarMetres,
                blind_zone_m = r.BlindMetres,
                sees_straight_down = r.SeesStraightDown,
                horizon_in_view = r.HorizonInView,
                verdict = r.IsInView ? "ok" : "plane_never_in_view",
            };
        },
        ["density_from_target"] = i =>
        {
            var r = MeasuredDensity.Of(
                i.Number("x1_px"),
                i.Number("y1_px"),
                i.Number("x2_px"),
                i.Number("y2_px"),
                i.Number("target_length_m"),
                i.Number("target_length_uncertainty_m", 0),
                i.Number("target_turn_deg", 0)
            );
            return new
            {
                pixel_length_px = r.LengthPixels,
                pixels_per_m = r.PerMetre,
                worst_case_pixels_per_m = r.WorstCase,
                expanded_k2_pixels_per_m = r.Expanded,
                too_short_to_trust = r.IsTooShort,
            };
        },
        ["depth_of_field"] = i =>
        {
            var r = Pinhole.SharpAround(
                i.Number("focal_length_mm"),
                i.Number("f_number"),
                i.Number("focus_distance_m"),
                i.Number("circle_of_confusion_um")
            );
            return new
            {
                hyperfocal_m = r.HyperfocalMetres,
                near_limit_m = r.NearMetres,
                far_limit_m = r.FarMetres,
                depth_m = r.DepthMetres,
            };
        },
        ["screen_percent"] = i =>
        {
            var (pixels, percent) = PixelDensity.OnScreen(
                i.Number("pixels_per_m"),
                i.Number("target_height_m"),
                i.Whole("picture_height_px")
            );
            return new { target_pixels = pixels, screen_height_percent = percent };
        },
    };

    public static readonly IReadOnlyDictionary<string, Operations.Operation> Aim = new Dictionary<string, Operations.Operation>
    {
        ["aim_error"] = i =>
        {
            var r = AimError.Of(
                i.Whole("pixels_wide"),
                i.Whole("pixels_high"),
                i.Number("horizontal_fov_deg"),
                i.Number("wanted_x_px"),
                i.Number("wanted_y_px"),
                i.Number("camera_tilt_deg", 0),
                i.OptionalNumber("vertical_fov_deg"),
                i.Number("tolerance_percent", 5)
            );
            return new
            {
                simple_pan_deg = r.SimplePanDeg,
                simple_tilt_deg = r.SimpleTiltDeg,
                exact_pan_deg = r.PanDeg,
                exact_tilt_deg = r.TiltDeg,
                axis_offset_deg = r.OffAxisDeg,
                pan_percent_of_fov = r.PanPercent,
                tilt_percent_of_fov = r.TiltPercent,
                in_tolerance = r.IsWithin,
            };
        },
        ["roll"] = i =>
        {
            var r = CameraRoll.Of(
                i.Number("x1_px"),
                i.Number("y1_px"),
                i.Number("x2_px"),
                i.Number("y2_px"),
                i.Word<LineKind>("reference"),
                i.Number("tolerance_deg", 1),
                i.Number("click_error_px", 0.5)
            );
            return new
            {
                picture_line_deg = r.LineDeg,
                camera_roll_deg = r.RollDeg,
                uncertainty_deg = r.UncertaintyDeg,
                verdict = r.Outcome,
            };
        },
        ["mounting_rule"] = i =>
        {
            var rules = Uses.ToDictionary(u => u.Key, u => MountingRule.Of(u.Value, f => Figures.Value[f]));
            if (i.Has("rules"))
                foreach (var (name, rule) in i.Groups("rules"))
                    rules[name] = Rule(rule);
            var r = (rules.GetValueOrDefault(i.Text("use")) ?? throw new BadInputException(BadInputReason.UnknownValue, "use")).Judge(
                i.Number("camera_height_m"),
                i.Number("tilt_deg"),
                i.Number("pixels_per_m"),
                i.Number("height_accuracy_m", 0),
                i.Number("tilt_accuracy_deg", 0)
            );
            return new
            {
                failed = r.Failed,
                too_close_to_call = r.TooClose,
                verdict = r.Outcome,
            };
        },
        ["built_in_infrared"] = i =>
        {
            var (tilt, tall) = (i.Number("tilt_deg"), i.Number("vertical_fov_deg"));
            var has = i.Flag("camera_has_infrared");
            var r = BuiltInInfrared.Of(
                tilt,
                tall,
                has
                    ?
                    [
                        .. i.List("surfaces")
                            .Select(s => new NearSurface(s.Number("distance_m"), s.Number("bearing_deg"), s.Number("depression_deg"))),
                    ]
                    : [],
                i.Number("minimum_down_tilt_deg", 10),
                i.OptionalNumber("infrared_half_angle_deg"),
                i.Number("near_distance_m", 1.5)
            );
            return has
                ? new
                {
                    verdict = r.IsOk ? "ok" : "fault",
                    findings = (string[])
                        [
                            .. r.TiltTooLow ? new[] { "down_tilt_below_minimum_for_infrared" } : [],
                            .. r.Reflecting.Select(n => $"reflecting_surface_{n}"),
                        ],
                    surface_angles_deg = r.SurfaceAnglesDeg,
                }
                : new
                {
                    verdict = "not_applicable",
                    findings = Array.Empty<string>(),
                    surface_angles_deg = r.SurfaceAnglesDeg,
                };
        },
        ["backlight"] = i =>
        {
            var r = Backlight.Of(
                i.Number("bright_lux"),
                i.Number("subject_lux"),
                i.Number("wide_dynamic_range_db"),
                i.Number("margin_db", 6)
            );
            return new
            {
                contrast_db = r.ContrastDb,
                usable_range_db = r.UsableDb,
                spare_db = r.SpareDb,
                verdict = r.Verdict,
            };
        },
    };

    public static readonly IReadOnlyDictionary<string, Operations.Operation> Light = new Dictionary<string, Operations.Operation>
    {
        ["position"] = i =>
        {
            var r = Sun.At(i.Number("latitude_deg"), i.Number("longitude_deg"), i.Utc("utc"));
            return new
            {
                azimuth_deg = r.AzimuthDeg,
                elevation_deg = r.ElevationDeg,
                apparent_elevation_deg = r.ApparentElevationDeg,
                declination_deg = r.DeclinationDeg,
                equation_of_time_min = r.EquationOfTimeMinutes,
                hour_angle_deg = r.HourAngleDeg,
            };
        },
        ["events"] = i =>
        {
            var r = Sun.On(i.Number("latitude_deg"), i.Number("longitude_deg"), i.Day("date"), Offset(i));
            return new
            {
                solar_noon_utc = Utc(r.Noon),
                noon_elevation_deg = r.NoonElevationDeg,
                sun = r.Sun switch
                {
                    Sun.Course.AlwaysAbove => "never_sets",
                    Sun.Course.AlwaysBelow => "never_rises",
                    _ => "rises_and_sets",
                },
                sunrise_utc = Utc(r.Sunrise),
                sunset_utc = Utc(r.Sunset),
                civil = r.CivilLight switch
                {
                    Sun.Course.AlwaysAbove => "never_dark",
                    Sun.Course.AlwaysBelow => "never_light",
                    _ => "dusk_and_dawn",
                },
                civil_dawn_utc = Utc(r.Dawn),
                civil_dusk_utc = Utc(r.Dusk),
            };
        },
        ["sun_in_view"] = i =>
        {
            var r = SunInView.At(i.Number("latitude_deg"), i.Number("longitude_deg"), i.Utc("utc"), View(i));
            return new
            {
                sun_azimuth_deg = r.AzimuthDeg,
                sun_apparent_elevation_deg = r.ElevationDeg,
                right_of_axis_deg = r.RightDeg,
                above_axis_deg = r.AboveDeg,
                off_axis_deg = r.OffAxisDeg,
                in_view = r.IsInView,
                in_guard = r.IsInGuard,
            };
        },
        ["glare_calendar"] = i =>
        {
            var r = GlareCalendar.Of(
                i.Number("latitude_deg"),
                i.Number("longitude_deg"),
                Offset(i),
                i.Whole("year"),
                View(i),
                i.OptionalWhole("step_min") ?? 10
            );
            return new
            {
                days_in_view = r.DaysInView,
                samples_in_view = r.SamplesInView,
                days_in_guard = r.DaysInGuard,
                samples_in_guard = r.SamplesInGuard,
                periods_in_view = Periods(r.InView),
                periods_in_guard = Periods(r.InGuard),
            };
        },
        ["night_window"] = i =>
        {
            var r = NightWindow.Of(
                i.Number("latitude_deg"),
                i.Number("longitude_deg"),
                i.Day("date"),
                Offset(i),
                i.Number("settle_min"),
                i.Number("work_end_local_min")
            );
            return new
            {
                start_utc = Utc(r.From),
                end_utc = Utc(r.Until),
                minutes = r.Minutes,
                verdict = r.Verdict,
            };
        },
    };

    private static SunlitView View(CaseInput i) =>
        new(
            i.Number("camera_azimuth_deg"),
            i.Number("tilt_deg"),
            i.Number("horizontal_fov_deg"),
            i.Number("vertical_fov_deg"),
            i.Number("guard_deg"),
            i.Number("minimum_sun_elevation_deg", 0)
        );

    private static int Offset(CaseInput i) => (int)Require.Number(i.Whole("utc_offset_min"), "utc_offset_min", -720, 840);

    private static IEnumerable<object> Periods(IEnumerable<GlarePeriod> periods) =>
        periods.Select(p => new
        {
            first_day = p.FirstDay.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            last_day = p.LastDay.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            earliest_local = p.Earliest.ToString("HH:mm", CultureInfo.InvariantCulture),
            latest_local = p.Latest.ToString("HH:mm", CultureInfo.InvariantCulture),
        });

    private static MountingRule Rule(CaseInput i) =>
        new(
            i.Number("min_height_m"),
            i.Number("max_height_m"),
            i.Number("min_tilt_deg"),
            i.Number("max_tilt_deg"),
            i.Number("min_pixels_per_m")
        );

    private static string? Utc(DateTimeOffset? at) =>
        at?.AddMilliseconds(500).UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture);
}
