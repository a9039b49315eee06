using System.Text.Json;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Cabling;
using Walkdown.Core.Catalogues;
using Walkdown.Core.Coax;
using Walkdown.Core.Links;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Core.Radio;

namespace Walkdown.Verify;

/// <summary>Operation names to Core. Names and shapes only: a formula here would be a fault.</summary>
public static class Operations
{
    public delegate object Operation(CaseInput input);

    public static readonly IReadOnlyDictionary<string, IReadOnlyDictionary<string, Operation>> ByTopic = new Dictionary<
        string,
        IReadOnlyDictionary<string, Operation>
    >
    {
        ["A"] = new Dictionary<string, Operation>
        {
            ["conductor_resistance"] = ConductorResistance,
            ["length_from_loop_resistance"] = i => new
            {
                run_length_m = Conductor.LengthFromLoopMetres(
                    i.Number("loop_resistance_ohm"),
                    i.Number("gauge_awg"),
                    i.Number("temperature_c"),
                    i.Word<ConductorMaterial>("material"),
                    i.Number("lead_resistance_ohm", 0)
                ),
            },
            ["material_inference"] = InferMaterial,
            ["unbalance"] = UnbalanceOf,
            ["temperature_derated_length"] = i =>
            {
                var r = CableLength.DerateForTemperature(i.Number("length_at_20_c_m"), i.Number("temperature_c"), i.Flag("screened"));
                return new
                {
                    extra_loss_percent = r.ExtraLossPercent,
                    derated_length_m = r.LengthMetres,
                    outside_rated_temperature = r.OutsideRatedTemperature,
                };
            },
            ["cord_derated_channel"] = i =>
            {
                var r = CableLength.CordsAllowed(i.Number("fixed_length_m"), i.Whole("cord_gauge_awg"), i.Number("cords_total_m"));
                return new
                {
                    cord_derating = r.Derating,
                    cords_allowed_m = r.AllowedMetres,
                    equivalent_fixed_length_m = r.EquivalentFixedMetres,
                    in_limit = r.InLimit,
                };
            },
            ["length_from_delay"] = i => new
            {
                run_length_m = CableLength.FromDelayMetres(
                    i.Number("velocity_of_propagation_percent"),
                    i.Number("delay_ns"),
                    i.Flag("round_trip")
                ),
            },
            ["velocity_from_known_length"] = i =>
            {
                var (percent, plausible) = CableLength.VelocityFromKnownLength(
                    i.Number("known_length_m"),
                    i.Number("delay_ns"),
                    i.Flag("round_trip")
                );
                return new { velocity_of_propagation_percent = percent, plausible };
            },
            ["delay_skew"] = i =>
            {
                var r = CableLength.DelaySkew(
                    [.. i.Numbers("pair_delays_ns").Select(p => p.Value)],
                    i.Word<LinkConfiguration>("configuration")
                );
                return new
                {
                    largest_delay_ns = r.LargestDelayNs,
                    delay_skew_ns = r.SkewNs,
                    delay_in_limit = r.DelayInLimit,
                    skew_in_limit = r.SkewInLimit,
                };
            },
            ["loop_and_length_check"] = LoopAndLength,
        },
        ["B"] = new Dictionary<string, Operation> { ["analyse"] = Analyse },
        ["C"] = new Dictionary<string, Operation>
        {
            ["class_table"] = i =>
            {
                var c = PoeClass.Of(i.Whole("power_class"));
                return new
                {
                    source_power_w = c.SourceWatts,
                    device_power_w = c.DeviceWatts,
                    lowest_source_type = c.LowestSourceType,
                    pairs = c.Pairs,
                    source_voltage_min_v = c.SourceMinVolts,
                    source_voltage_max_v = PoeClass.MaxVolts,
                    device_voltage_min_v = c.DeviceMinVolts,
                    device_voltage_max_v = PoeClass.MaxVolts,
                };
            },
            ["device_voltage"] = DeviceVolts,
            ["max_run_length"] = i =>
            {
                var r = DeviceVoltage.LongestRun(
                    i.Number("source_voltage_v"),
                    i.Number("device_power_w"),
                    i.Number("device_voltage_min_v"),
                    i.Number("gauge_awg"),
                    i.Number("temperature_c"),
                    i.Word<ConductorMaterial>("material"),
                    i.Whole("pairs"),
                    i.Number("contact_resistance_ohm", 0),
                    i.Number("data_length_cap_m", 100)
                );
                return new
                {
                    max_loop_resistance_ohm = r.MaxLoopOhms,
                    power_length_m = r.PowerMetres,
                    usable_length_m = r.UsableMetres,
                    limited_by = r.By,
                };
            },
            ["predicted_versus_measured"] = Predicted,
            ["switch_budget"] = SwitchBudget,
            ["chain_power"] = i =>
            {
                var r = Budgets.ThroughSplitterAndInjector(
                    i.Number("device_power_w"),
                    i.Number("splitter_efficiency_percent"),
                    i.Number("cable_loss_w"),
                    i.Number("injector_efficiency_percent")
                );
                return new
                {
                    splitter_input_w = r.SplitterInputWatts,
                    source_output_w = r.SourceOutputWatts,
                    mains_input_w = r.MainsInputWatts,
                    lowest_class = r.LowestClass,
                };
            },
            ["granted_power"] = i =>
            {
                var r = Budgets.Granted(
                    i.Whole("requested_class"),
                    i.Whole("class_events"),
                    i.Word<SourceMode>("source_mode"),
                    i.Word<DeviceSetting>("device_setting"),
                    i.Number("device_need_w"),
                    i.OptionalNumber("source_limit_w")
                );
                return new
                {
                    granted_class = r.Class,
                    granted_w = r.Watts,
                    verdict = r.Verdict,
                };
            },
        },
        ["D"] = new Dictionary<string, Operation>
        {
            ["single_run"] = i =>
            {
                var r = LowVoltage.Single(
                    i.Number("source_voltage_v"),
                    i.Number("run_length_m"),
                    WireOf(i.Group("conductor")),
                    i.Number("temperature_c"),
                    new(i.Word<LoadKind>("load_kind"), i.Number("load_value")),
                    i.Number("power_factor", 1),
                    i.Word<SupplyRange>("range_key", SupplyRange.V12Dc)
                );
                return r.Volts is null
                    ? new
                    {
                        loop_resistance_ohm = r.LoopOhms,
                        solution = false,
                        verdict = r.Verdict,
                    }
                    : new
                    {
                        loop_resistance_ohm = r.LoopOhms,
                        solution = true,
                        device_voltage_v = r.Volts,
                        current_a = r.Amperes,
                        drop_v = r.DropVolts,
                        drop_percent = r.DropPercent,
                        cable_loss_w = r.LossWatts,
                        verdict = r.Verdict,
                    };
            },
            ["max_length"] = i => new
            {
                run_length_max_m = LowVoltage.LongestMetres(
                    i.Number("source_voltage_v"),
                    i.Number("device_voltage_min_v"),
                    WireOf(i.Group("conductor")),
                    i.Number("temperature_c"),
                    new(i.Word<LoadKind>("load_kind"), i.Number("load_value"))
                ),
            },
            ["tapped_run"] = i =>
            {
                var r = LowVoltage.Along(
                    i.Number("source_voltage_v"),
                    WireOf(i.Group("conductor")),
                    i.Number("temperature_c"),
                    [
                        .. i.List("taps")
                            .Select(t => new LowVoltage.Tap(
                                t.Number("distance_m"),
                                new(t.Word<LoadKind>("load_kind"), t.Number("load_value"))
                            )),
                    ],
                    i.Word<SupplyRange>("range_key", SupplyRange.V12Dc)
                );
                return r.Solved
                    ? new
                    {
                        solution = true,
                        tap_voltages_v = r.Volts,
                        tap_currents_a = r.Amperes,
                        supply_current_a = r.SupplyAmperes,
                        out_of_range_taps = r.OutOfRange,
                        verdict = r.Verdict,
                    }
                    : new { solution = false, verdict = r.Verdict };
            },
            ["supply_voltage"] = i =>
            {
                var r = LowVoltage.SupplyVolts(
                    i.Number("full_load_voltage_v"),
                    i.Number("regulation_percent"),
                    i.Number("rated_current_a"),
                    i.Number("load_current_a")
                );
                return new
                {
                    source_voltage_v = r.Volts,
                    no_load_voltage_v = r.NoLoadVolts,
                    overloaded = r.Overloaded,
                };
            },
            ["supply_and_fuse"] = i =>
            {
                var r = LowVoltage.SupplyAndFuse(
                    [.. i.Numbers("load_currents_a").Select(n => n.Value)],
                    i.Number("rated_current_a"),
                    i.Number("derating_factor", 0.8),
                    i.OptionalNumber("fuse_rating_a"),
                    i.Number("fuse_load_factor", 0.75),
                    i.OptionalNumber("cable_ampacity_a")
                );
                return new
                {
                    total_current_a = r.TotalAmperes,
                    usable_current_a = r.UsableAmperes,
                    headroom_a = r.HeadroomAmperes,
                    supply_ok = r.SupplyOk,
                    fuse = r.Fuse,
                };
            },
            ["polarity"] = i => new
            {
                verdict = LowVoltage.Polarity(
                    i.Number("measured_dc_v"),
                    i.Number("measured_ac_v"),
                    i.Word<SupplyRange>("range_key"),
                    i.Number("dead_below_v", 1)
                ),
            },
        },
        ["G"] = new Dictionary<string, Operation>
        {
            ["loss"] = i =>
            {
                var r = ProbeLoss.Judge(i.Whole("sent"), i.Whole("received"), i.Number("loss_limit_percent"), i.Number("z", Wilson.Z95));
                return new
                {
                    lost = r.Lost,
                    loss_percent = r.Percent,
                    loss_low_percent = r.LowPercent,
                    loss_high_percent = r.HighPercent,
                    verdict = r.Verdict,
                    probes_for_pass_without_loss = r.ProbesToPass,
                };
            },
            ["latency"] = i =>
            {
                var r = Latency.Of(i.NumbersOrNull("round_trips_ms"));
                return new
                {
                    received = r.Received,
                    minimum_ms = r.MinMs,
                    median_ms = r.MedianMs,
                    p95_ms = r.P95Ms,
                    maximum_ms = r.MaxMs,
                    mean_ms = r.MeanMs,
                    jitter_ms = r.JitterMs,
                    mean_abs_difference_ms = r.MeanAbsDifferenceMs,
                    longest_loss_burst = r.LongestLossBurst,
                };
            },
            ["interface_errors"] = i =>
            {
                CounterReading Counters(CaseInput c) => new(c.Count("packets"), c.Count("errors"));
                var r = InterfaceErrors.Between(
                    Counters(i.Group("first")),
                    Counters(i.Group("second")),
                    i.Number("interval_s"),
                    i.OptionalWhole("counter_bits") ?? 32,
                    i.Number("error_limit_ppm", 1)
                );
                return r.Verdict == CounterVerdict.CounterResetReadAgain ? new { verdict = r.Verdict }
                    : r.Verdict == CounterVerdict.NoTraffic
                        ? new
                        {
                            packets = 0,
                            errors = 0,
                            verdict = r.Verdict,
                        }
                    : new
                    {
                        packets = r.Packets,
                        errors = r.Errors,
                        error_rate_ppm = r.RatePpm,
                        error_low_ppm = r.LowPpm,
                        error_high_ppm = r.HighPpm,
                        errors_per_hour = r.ErrorsPerHour,
                        verdict = r.Verdict,
                    };
            },
            ["negotiated"] = i =>
            {
                var findings = Negotiated.Judge(
                    i.Whole("expected_mbps"),
                    i.Word<Duplex>("expected_duplex"),
                    i.Whole("near_mbps"),
                    i.Word<Duplex>("near_duplex"),
                    i.OptionalWhole("far_mbps"),
                    i.Has("far_duplex") ? i.Word<Duplex>("far_duplex") : null,
                    i.OptionalWhole("pairs_good") ?? 4
                );
                return new { findings, verdict = Negotiated.Passes(findings) ? "pass" : "fail" };
            },
        },
        ["E"] = new Dictionary<string, Operation>
        {
            ["attenuation"] = i =>
            {
                var r = CoaxCable.LossOf(i.Word<CoaxKind>("cable"), i.Number("frequency_mhz"), i.Number("run_length_m"));
                return new
                {
                    db_per_100m = r.DbPer100Metres,
                    loss_db = r.LossDb,
                    level_fraction = r.LevelFraction,
                };
            },
            ["composite_level"] = CompositeLevel,
            ["termination"] = i =>
            {
                var r = Composite.TerminationOf(
                    i.Number("measured_sync_mv"),
                    i.Word<LineSystem>("system"),
                    i.Number("cable_loss_db", 0),
                    i.Number("tolerance_percent", 12)
                );
                return new
                {
                    level_factor = r.Factor,
                    load_resistance_ohm = r.LoadOhms,
                    verdict = Words.Of(r.Verdict),
                };
            },
            ["hum"] = i =>
            {
                var r = Composite.HumOf(
                    i.Number("ground_difference_v"),
                    i.Number("run_length_m"),
                    i.Word<CoaxKind>("cable"),
                    i.Number("ground_path_ohm"),
                    i.Number("limit_ire", 2)
                );
                return new
                {
                    shield_resistance_ohm = r.ShieldOhms,
                    shield_current_a = r.ShieldAmperes,
                    hum_mv_pp = r.MillivoltsPeakToPeak,
                    hum_ire = r.Ire,
                    verdict = r.IsVisible ? "visible" : "ok",
                };
            },
            ["format_distance"] = i =>
            {
                var r = CoaxCable.ReachOf(i.Word<VideoFormat>("video_format"), i.Word<CoaxKind>("cable"), i.Number("run_length_m"));
                return new
                {
                    longest_run_m = r.LongestMetres,
                    spare_m = r.SpareMetres,
                    in_limit = r.InLimit,
                    formats_that_reach = r.Reaching.Select(f => Words.Of(f)).ToArray(),
                };
            },
        },
        ["F"] = new Dictionary<string, Operation>
        {
            ["link_budget"] = i =>
            {
                var r = RadioLink.BudgetOf(
                    new(
                        i.Number("distance_m"),
                        i.Number("frequency_mhz"),
                        i.Number("transmit_power_dbm"),
                        i.Number("transmit_gain_dbi"),
                        i.Number("receive_gain_dbi"),
                        i.Number("transmit_cable_loss_db"),
                        i.Number("receive_cable_loss_db"),
                        i.Number("receiver_sensitivity_dbm"),
                        i.Number("other_loss_db", 0),
                        i.Number("required_fade_margin_db", 15),
                        i.OptionalNumber("eirp_limit_dbm")
                    )
                );
                return new
                {
                    free_space_loss_db = r.FreeSpaceLossDb,
                    eirp_dbm = r.EirpDbm,
                    receive_level_dbm = r.ReceiveDbm,
                    fade_margin_db = r.MarginDb,
                    eirp_over_limit = r.IsOverLimit,
                    longest_distance_m = r.LongestMetres,
                    verdict = Words.Of(r.Verdict),
                };
            },
            ["fresnel"] = i =>
            {
                var r = RadioLink.PathOf(
                    i.Number("distance_m"),
                    i.Number("frequency_mhz"),
                    i.Number("at_m"),
                    i.Number("antenna_a_height_m"),
                    i.Number("antenna_b_height_m"),
                    i.Number("obstacle_height_m"),
                    i.Number("earth_factor", 4.0 / 3),
                    i.Number("clearance_fraction", 0.6)
                );
                return new
                {
                    first_zone_radius_m = r.RadiusMetres,
                    earth_bulge_m = r.BulgeMetres,
                    line_height_m = r.LineMetres,
                    clearance_m = r.ClearanceMetres,
                    clearance_needed_m = r.NeededMetres,
                    clearance_fraction = r.Fraction,
                    verdict = Words.Of(r.Verdict),
                };
            },
            ["receive_level"] = i =>
            {
                var (difference, verdict) = RadioLink.LevelOf(
                    i.Number("predicted_dbm"),
                    i.Number("measured_dbm"),
                    i.Number("tolerance_db", 6),
                    i.Number("measurement_accuracy_db", 2),
                    i.OptionalNumber("sensitivity_dbm"),
                    i.Number("strong_limit_dbm", -30)
                );
                return new { difference_db = difference, verdict = Words.Of(verdict) };
            },
            ["polarisation_loss"] = i => new
            {
                loss_db = RadioLink.PolarisationLossDb(i.Number("angle_deg"), i.Number("cross_polar_discrimination_db", 25)),
            },
            ["throughput"] = i =>
            {
                var r = RadioLink.ThroughputOf(
                    [.. i.Numbers("stream_mbps").Select(n => n.Value)],
                    i.Number("negotiated_mbps"),
                    i.Number("efficiency", 0.5),
                    i.Number("headroom", 1.3),
                    i.Number("duplex_share", 1)
                );
                return new
                {
                    needed_mbps = r.NeededMbps,
                    usable_mbps = r.UsableMbps,
                    spare_mbps = r.SpareMbps,
                    load_percent = r.LoadPercent,
                    verdict = r.IsEnough ? "ok" : "too_slow",
                };
            },
        },
        ["H"] = AddressOperations.All,
        ["I"] = RecordingOperations.Time,
        ["J"] = RecordingOperations.Recording,
        ["K"] = OpticsOperations.Optics,
        ["L"] = OpticsOperations.Aim,
        ["M"] = OpticsOperations.Light,
        ["N"] = PictureOperations.Pictures,
        ["O"] = PictureOperations.Plates,
        ["P"] = new Dictionary<string, Operation>
        {
            ["verdict"] = Decide,
            ["calibration"] = i =>
            {
                var r = Calibration.On(
                    Date(i, "test_date")!.Value,
                    Date(i, "calibrated_on"),
                    Date(i, "calibration_due"),
                    i.OptionalWhole("warn_days") ?? 30
                );
                return new
                {
                    status = r.Status,
                    days_left = r.DaysLeft,
                    readings_count = r.Counts,
                };
            },
            ["device_verdict"] = VerdictOfDevice,
            ["history"] = i =>
            {
                var r = AttemptHistory.Of([
                    .. i.List("attempts")
                        .Select(a => new AttemptHistory.Attempt(
                            a.Whole("sequence"),
                            DateTimeOffset.Parse(a.Text("at"), null, System.Globalization.DateTimeStyles.AssumeUniversal),
                            a.Word<DeviceVerdict.CheckOutcome>("outcome"),
                            a.Flag("void", false)
                        )),
                ]);
                return new
                {
                    effective_sequence = r.EffectiveSequence,
                    effective_outcome = r.EffectiveOutcome,
                    valid_attempts = r.ValidAttempts,
                    kept_attempts = r.KeptAttempts,
                    first_outcome = r.FirstOutcome,
                    failures_before = r.FailuresBefore,
                };
            },
        },
    };

    private static LowVoltage.Wire WireOf(CaseInput conductor) =>
        new(conductor.OptionalNumber("gauge_awg"), conductor.OptionalNumber("area_mm2"));

    private static object ConductorResistance(CaseInput i)
    {
        double gauge = i.Number("gauge_awg"),
            length = i.Number("run_length_m"),
            temperature = i.Number("temperature_c");
        var material = i.Word<ConductorMaterial>("material");
        var loop = Conductor.PairLoopOhms(gauge, length, temperature, material);
        return new
        {
            diameter_mm = Conductor.DiameterMm(gauge),
            area_mm2 = Conductor.AreaMm2(gauge),
            resistance_per_m_ohm = Conductor.OhmsPerMetre(gauge, temperature, material),
            conductor_resistance_ohm = loop / 2,
            pair_loop_resistance_ohm = loop,
        };
    }

    private static object InferMaterial(CaseInput i)
    {
        var r = MaterialInference.Infer(
            i.Number("loop_resistance_ohm"),
            i.Number("time_domain_length_m"),
            i.Number("temperature_c"),
            i.Number("expected_gauge_awg"),
            i.Word<ConductorMaterial>("expected_material", ConductorMaterial.SolidCopper),
            i.Number("resistance_accuracy_percent", 2),
            i.Number("length_accuracy_percent", 5),
            i.Has("candidate_gauges_awg") ? [.. i.Numbers("candidate_gauges_awg").Select(g => g.Value)] : null
        );
        return new
        {
            expected_loop_resistance_ohm = r.ExpectedLoopOhms,
            resistance_ratio = r.Ratio,
            ratio_low = r.RatioLow,
            ratio_high = r.RatioHigh,
            candidates = r.Candidates.Select(c => new
            {
                gauge_awg = c.GaugeAwg,
                material = c.Material,
                ratio = c.Ratio,
            }),
            copper_clad_aluminium_possible = r.CopperCladPossible,
            verdict = r.Verdict,
        };
    }

    private static object UnbalanceOf(CaseInput i)
    {
        var byPin = i.Group("conductor_resistances_ohm");
        var ohms = Enumerable.Range(1, 8).Select(pin => byPin.Number(pin.ToString())).ToArray();
        Unbalance.Limits? limits = null;
        if (i.Has("limits"))
        {
            var l = i.Group("limits");
            var d = new Unbalance.Limits();
            limits = new(
                l.Number("within_percent", d.WithinPercent),
                l.Number("within_ohm", d.WithinOhms),
                l.Number("between_percent", d.BetweenPercent),
                l.Number("between_ohm", d.BetweenOhms)
            );
        }
        var r = Unbalance.Of(ohms, limits);
        return new
        {
            within_pairs = r.WithinPairs.Select(w => new
            {
                pair = w.Of,
                unbalance_ohm = w.Ohms,
                unbalance_percent = w.Percent,
                allowed_ohm = w.AllowedOhms,
                in_limit = w.InLimit,
            }),
            worst_between_pairs = new
            {
                pairs = r.WorstBetweenPairs.Of,
                unbalance_ohm = r.WorstBetweenPairs.Ohms,
                unbalance_percent = r.WorstBetweenPairs.Percent,
                allowed_ohm = r.WorstBetweenPairs.AllowedOhms,
                in_limit = r.WorstBetweenPairs.InLimit,
            },
            all_in_limit = r.AllInLimit,
        };
    }

    /// <summary>The limit set that ships, by which Cards are judged where the company has no other.</summary>
    private static readonly Dictionary<string, LimitEntry> Shipped = Catalogue
        .Shipped.Select(file => System.Text.Json.JsonSerializer.Deserialize<CatalogueFile>(file.Json, Catalogue.Json)!)
        .SelectMany(file => file.LimitSet?.Limits ?? [])
        .ToDictionary(limit => limit.Id);

    private static object LoopAndLength(CaseInput i)
    {
        double length = Require.Number(i.Number("run_length_m"), "run_length_m", 0),
            loop = Require.Number(i.Number("loop_resistance_ohm"), "loop_resistance_ohm", 0);
        var of = i.Word<LinkConfiguration>("configuration") == LinkConfiguration.Channel ? "channel" : "permanent-link";
        var (metres, ohms) = (Shipped["length." + of].Max, Shipped["loop." + of].Max);
        var byLength = Decision.Decide(length, null, metres, null, DecisionRule.Simple);
        var byLoop = Decision.Decide(loop, null, ohms, null, DecisionRule.Simple);
        return new
        {
            length_spare_m = byLength.Spare.Value,
            length_in_limit = byLength.Outcome == Outcome.In,
            loop_spare_ohm = byLoop.Spare.Value,
            loop_in_limit = byLoop.Outcome == Outcome.In,
        };
    }

    private static object Analyse(CaseInput i)
    {
        var map = new Dictionary<int, IReadOnlyCollection<int>>();
        foreach (var entry in i.Raw("near_to_far").EnumerateObject())
            map[Pin(entry.Name)] =
            [
                .. entry
                    .Value.EnumerateArray()
                    .Select(p => p.ValueKind == JsonValueKind.Number && p.TryGetInt32(out var pin) ? pin : Pin(p.ToString())),
            ];
        var r = WireMap.Analyse(
            new WireMapReading(map),
            new WireMapContext
            {
                ShieldExpected = i.Flag("shield_expected", false),
                TwistedPairsNear = i.Has("twisted_pairs_near")
                    ? [.. i.Raw("twisted_pairs_near").EnumerateArray().Select(p => (p[0].GetInt32(), p[1].GetInt32()))]
                    : null,
                ExpectedRemoteLabel = i.OptionalText("expected_remote_label"),
                FoundRemoteLabel = i.OptionalText("found_remote_label"),
                AutoCrossover = i.Flag("auto_mdix", true),
                OpenDistanceMetres = i.Has("open_distance_m")
                    ? i.Numbers("open_distance_m").ToDictionary(d => Pin(d.Key), d => Require.Number(d.Value, "open_distance_m", 0))
                    : null,
                RunLengthMetres = i.OptionalNumber("run_length_m") is { } length ? Require.Number(length, "run_length_m", 0) : null,
                LastWorkedEnd = i.Has("last_worked_end") ? i.Word<CableEnd>("last_worked_end") : null,
            }
        );
        return new
        {
            classifications = r.Classes,
            open_near_pins = r.OpenNearPins,
            far_pins_not_seen = r.FarPinsNotSeen,
            shorts = r.Shorts.Select(s => new
            {
                near_pins = s.NearPins.Select(Name),
                far_pins = s.FarPins.Select(Name),
                short_lies = s.Lies,
                shield_involved = s.ShieldInvolved,
            }),
            reversed_pairs = r.ReversedPairs.Select(p => p.ToString()),
            transposed_pairs = r.TransposedPairs.Select(t => new { near = t.Near.ToString(), far = t.Far.ToString() }),
            crossed_pins = r.CrossedPins,
            split_twists = r.SplitTwists.Select(p => p.ToString()),
            shield = r.Shield,
            label = r.Label,
            pair_test_done = r.PairTestDone,
            links = new Dictionary<string, object>
            {
                ["10BASE-T"] = r.Links.Base10,
                ["100BASE-TX"] = r.Links.Base100,
                ["1000BASE-T"] = r.Links.Base1000,
            },
            power_alternative_a = r.Power.A,
            power_alternative_a_reason = r.Power.AReason,
            power_alternative_b = r.Power.B,
            power_alternative_b_reason = r.Power.BReason,
            power_four_pair = r.Power.FourPair,
            power_four_pair_reason = r.Power.FourPairReason,
            look_first = r.LookFirst,
            look_reason = r.Why,
        };

        static int Pin(string name) =>
            name == "S" ? WireMapReading.Shield
            : int.TryParse(name, out var pin) && pin is >= 1 and <= 8 ? pin
            : throw new BadInputException(BadInputReason.UnknownValue, "near_to_far");
        static object Name(int pin) => pin == WireMapReading.Shield ? "S" : pin;
    }

    private static object DeviceVolts(CaseInput i)
    {
        var pairs = i.Whole("pairs");
        var loop = Conductor.PairLoopOhms(
            i.Number("gauge_awg"),
            i.Number("run_length_m"),
            i.Number("temperature_c"),
            i.Word<ConductorMaterial>("material")
        );
        var r = DeviceVoltage.At(
            i.Number("source_voltage_v"),
            i.Number("device_power_w"),
            DeviceVoltage.PowerLoopOhms(loop, pairs, i.Number("contact_resistance_ohm", 0)),
            pairs,
            i.OptionalWhole("power_class")
        );
        if (!r.Solved)
            return new
            {
                loop_resistance_ohm = r.LoopOhms,
                solution = false,
                max_power_w = r.MaxWatts,
                verdict = r.Verdict,
            };
        return new
        {
            loop_resistance_ohm = r.LoopOhms,
            solution = true,
            device_voltage_v = r.Volts,
            current_a = r.Amperes,
            cable_loss_w = r.LossWatts,
            source_power_w = r.SourceWatts,
            efficiency_percent = r.EfficiencyPercent,
            device_voltage_min_v = r.DeviceMinVolts,
            current_limit_a = r.LimitAmperes,
            verdict = r.Verdict,
        };
    }

    private static object Predicted(CaseInput i)
    {
        var d = new PredictedVersusMeasured.Assumptions();
        var r = PredictedVersusMeasured.Compare(
            i.Number("source_voltage_v"),
            [
                .. i.List("states")
                    .Select(s => new PredictedVersusMeasured.Measured(
                        s.Text("state"),
                        s.Number("device_voltage_v"),
                        s.Number("device_power_w")
                    )),
            ],
            i.Number("expected_loop_resistance_ohm"),
            new(
                i.Number("voltage_accuracy_percent", d.VoltsPercent),
                i.Number("voltage_accuracy_v", d.Volts),
                i.Number("power_accuracy_percent", d.WattsPercent),
                i.Number("excess_limit_ohms", i.Number("excess_limit_ohm", d.ExcessLimitOhms)),
                i.Number("device_voltage_min_v", d.DeviceMinVolts)
            )
        );
        return new
        {
            rows = r.Rows.Select(row => new
            {
                state = row.State,
                predicted_voltage_v = row.PredictedVolts,
                difference_v = row.DifferenceVolts,
                loop_resistance_ohm = row.LoopOhms,
                loop_uncertainty_ohm = row.LoopUncertaintyOhms,
                verdict = row.Verdict,
            }),
            two_state_loop_resistance_ohm = r.TwoStateLoopOhms,
            two_state_source_voltage_v = r.TwoStateSourceVolts,
        };
    }

    private static object SwitchBudget(CaseInput i)
    {
        var byMeasured = i.Text("allocation") switch
        {
            "class" => false,
            "measured" => true,
            _ => throw new BadInputException(BadInputReason.UnknownValue, "allocation"),
        };
        var r = Budgets.Switch(
            i.Number("budget_w"),
            [
                .. i.List("ports")
                    .Select(p => new Budgets.BudgetPort(
                        p.Whole("port"),
                        p.Whole("power_class"),
                        p.OptionalNumber("measured_w"),
                        p.Word<PortPriority>("priority", PortPriority.Low)
                    )),
            ],
            byMeasured,
            i.Number("reserve_percent", 0)
        );
        return new
        {
            usable_budget_w = r.UsableWatts,
            demand_w = r.DemandWatts,
            granted_w = r.GrantedWatts,
            headroom_w = r.HeadroomWatts,
            granted_ports = r.Granted,
            refused_ports = r.Refused,
            verdict = r.Refused.IsEmpty ? "ok" : "over_budget",
        };
    }

    private static object Decide(CaseInput i)
    {
        var limits = i.Group("limits");
        double? min = limits.OptionalNumber("min"),
            max = limits.OptionalNumber("max");
        if (limits.Has("nominal") || limits.Has("plus_minus_percent"))
        {
            var (low, high) = LimitWindow.AroundNominal(limits.Number("nominal"), limits.Number("plus_minus_percent"));
            (min, max) = (min > low ? min : low, max < high ? max : high);
        }
        Accuracy? accuracy = null;
        if (i.Has("accuracy"))
        {
            var a = i.Group("accuracy");
            accuracy = new(
                a.Number("percent_of_reading", 0),
                a.Number("counts", 0),
                a.OptionalNumber("resolution"),
                a.Number("absolute", 0)
            );
        }
        var reading = i.Number("reading");
        var r = Decision.Decide(reading, min, max, accuracy, i.Word<DecisionRule>("rule", DecisionRule.Guarded));
        return new
        {
            verdict = r.Outcome,
            uncertainty = r.HalfWidth,
            band_low = reading - r.HalfWidth,
            band_high = reading + r.HalfWidth,
            limit_min = min,
            limit_max = max,
            nearest_limit = r.Spare.Nearest,
            spare = r.Spare.Value,
            spare_percent_of_span = 100 * r.Spare.ShareOfSpan,
            spare_percent_of_limit = 100 * r.Spare.ShareOfLimit,
            instrument_cannot_decide = r.InstrumentCannotDecide,
        };
    }

    private static object VerdictOfDevice(CaseInput i)
    {
        var r = DeviceVerdict.Derive(
            [
                .. i.List("checks")
                    .Select(c => new DeviceVerdict.CheckLine(
                        c.Text("id"),
                        c.Flag("required", true),
                        c.Word<DeviceVerdict.CheckOutcome>("outcome"),
                        c.OptionalText("reason"),
                        c.Flag("calibration_ok", true),
                        c.OptionalText("conceded_by")
                    )),
            ],
            [
                .. i.List("faults")
                    .Select(f => new DeviceVerdict.FaultLine(
                        f.Text("id"),
                        f.Word<Severity>("severity"),
                        f.Word<DeviceVerdict.FaultStanding>("state"),
                        f.OptionalText("conceded_by")
                    )),
            ]
        );
        object verdict =
            r.Verdict != Verdict.AcceptedWithNote ? r.Verdict
            : r.Conceded.IsEmpty ? "pass_with_remarks"
            : "pass_with_concessions";
        return new
        {
            verdict,
            failing = r.Failing,
            incomplete = r.Incomplete,
            conceded = r.Conceded,
            remarks = r.Remarks,
            problems = r.Problems,
            open_faults = new
            {
                critical = r.OpenCritical,
                major = r.OpenMajor,
                minor = r.OpenMinor,
            },
        };
    }

    private static DateOnly? Date(CaseInput i, string name)
    {
        if (!i.Has(name))
            return name == "test_date" ? throw new BadInputException(BadInputReason.Missing, name) : null;
        return DateOnly.TryParseExact(i.Text(name), "yyyy-MM-dd", out var date)
            ? date
            : throw new BadInputException(BadInputReason.UnknownValue, name);
    }

    private static object CompositeLevel(CaseInput i)
    {
        var r = Composite.LevelsOf(
            i.Word<LineSystem>("system"),
            i.OptionalNumber("measured_total_mv"),
            i.OptionalNumber("measured_sync_mv"),
            i.OptionalNumber("measured_burst_mv"),
            i.Number("tolerance_percent", 10)
        );
        var said = new Dictionary<string, object?>();
        foreach (var (name, level) in new[] { ("total", r.Total), ("sync", r.Sync), ("burst", r.Burst) })
            if (level is { } one)
            {
                said[name + "_percent"] = one.Percent;
                said[name + "_gain_needed_db"] = one.GainNeededDb;
                said[name + "_ire"] = one.Ire;
            }
        if (r.HighFrequencyLossDb is { } loss)
            said["high_frequency_loss_db"] = loss;
        said["findings"] = r.Findings;
        return said;
    }
}
