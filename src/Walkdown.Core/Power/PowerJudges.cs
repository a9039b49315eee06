using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;

namespace Walkdown.Core.Power;

/// <summary>Judges of what feeds a device and what arrives there.</summary>
internal static class PowerJudges
{
    /// <summary>What feeds the device now, against what is planned. A test feed is not the permanent feed, and two feeds are a
    /// fault.</summary>
    public static Judged Feed(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var found = ((ChoiceValue)value).Choice;
        if (found == "tester")
            return new(State.TooClose, null, null, [new("feed.test-only")]);
        if (found == "two-feeds")
            return new(State.Out, null, null, [new("feed.two")]);
        if (found == "portable")
            return new(State.Out, null, null, [new("feed.portable")]);
        var planned = c.PlannedFeed;
        if (planned is null)
            return GeneralJudges.NotJudged(new Message("missing.feed"));
        if (planned == found)
            return new(State.In, null, null, []);
        return c.Has("shared-run") && found is "port" or "injector"
            ? new(State.Out, null, null, [new("feed.shared-run")])
            : new(State.Out, null, null, [new("feed.other", "@choice." + found, "@choice." + planned)]);
    }

    /// <summary>The class that the source grants, against what the device needs at its heaviest.</summary>
    public static Judged GrantedClass(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var found = ((ChoiceValue)value).Choice;
        if (found == "none")
            return new(State.Out, null, null, [new("class.none")]);
        if (found == "passive")
            return new(State.Out, null, null, [new("class.passive")]);
        if (c.PowerClass is not { } wanted)
            return GeneralJudges.NotJudged(new Message("missing.power-class"));
        var need = c.MostWatts ?? PoeClass.Of(wanted).DeviceWatts;
        var mode = c.Run?.Port?.Mode ?? SourceMode.Standard;
        var setting = c.ModeSwitch == "legacy" ? DeviceSetting.LegacyHighPower : DeviceSetting.Standard;
        if (found == "legacy" || mode == SourceMode.LegacyHighPower)
        {
            var grant = Budgets.Granted(wanted, 2, SourceMode.LegacyHighPower, setting, need, c.Run?.Port?.LimitWatts ?? 60);
            return grant.Verdict is GrantVerdict.Ok or GrantVerdict.OkByLegacySetting
                ? new(State.In, null, null, [new("class.ok", Message.Number(need, 1), Message.Number(grant.Watts ?? 0, 1))])
                : new(
                    State.Out,
                    null,
                    null,
                    [new("class." + Codes.Of(grant.Verdict), Message.Number(need, 1), Message.Number(grant.Watts ?? 0, 1))]
                );
        }
        if (!int.TryParse(found, CultureInfo.InvariantCulture, out var number) || number is < 0 or > 8)
            return GeneralJudges.NotJudged(new Message("because.not-a-class", found));
        var granted = PoeClass.Of(number);
        if (setting == DeviceSetting.LegacyHighPower && !Decision.AtMost(need, granted.DeviceWatts))
            return new(
                State.Out,
                null,
                null,
                [new("class.overloadRiskDeviceMayDrawMoreThanGranted", Message.Number(need, 1), Message.Number(granted.DeviceWatts, 1))]
            );
        if (!Decision.AtMost(need, granted.DeviceWatts))
            return new(
                State.Out,
                null,
                null,
                [new("class.reducedPowerFunctionsMaySwitchOff", Message.Number(need, 1), Message.Number(granted.DeviceWatts, 1))]
            );
        return granted.DeviceWatts < PoeClass.Of(wanted).DeviceWatts - 1e-9
            ? new(
                State.In,
                null,
                null,
                [new("class.lower-but-enough", found, wanted.ToString(CultureInfo.InvariantCulture), Message.Number(need, 1))]
            )
            : new(State.In, null, null, []);
    }

    /// <summary>The switch inside the device, against the source; and before closing, against the first look.</summary>
    public static Judged ModeSwitch(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var found = ((ChoiceValue)value).Choice;
        if (c.Check.Id != KnownChecks.ModeSwitch && c.ModeSwitch is { } first && first != found)
            return new(State.Out, null, null, [new("mode.differs", "@choice." + first, "@choice." + found)]);
        var wanted = c.Has("legacy-source") ? "legacy" : "standard";
        return found == wanted ? new(State.In, null, null, []) : new(State.Out, null, null, [new("mode.wrong", "@choice." + wanted)]);
    }

    /// <summary>Volts in their window; with the watts of the same state, also what the run itself must have.</summary>
    public static Judged PoeVolts(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var judged = GeneralJudges.Window(c, value, window, accuracy, takenAt);
        var volts = ((NumberValue)value).Value;
        if (c.Run is not { Port: { } port } run || volts is not (> 0 and <= 120))
            return judged;
        if (
            c.Counting.Number(KnownChecks.WattsAtDevice, new Subject(SubjectKind.Run, run.Id), c.Key.Under) is not (> 0 and var watts)
            || c.PowerClass is not { } number
        )
            return judged;
        if (PowerExpectations.PowerLoop(c) is not { } loop)
            return judged;
        var result = PredictedVersusMeasured.Compare(
            port.SourceVolts.Value,
            [new("", volts, watts)],
            loop.Value,
            new(
                DeviceMinVolts: PoeClass.Of(number).DeviceMinVolts,
                VoltsPercent: accuracy is { } a ? 100 * a.HalfWidthAt(volts) / volts : 1,
                Volts: accuracy is null ? 0.1 : 0
            )
        );
        var row = result.Rows[0];
        return row.Verdict switch
        {
            PredictionVerdict.ExcessResistance => judged with
            {
                Because = judged.Because.Add(new("volts.excess", Message.Number(row.LoopOhms), Message.Number(loop.Value))),
            },
            PredictionVerdict.MeasuredAboveSource => judged with
            {
                Because = judged.Because.Add(new("volts.above-source", Message.Number(port.SourceVolts.Value, 1))),
            },
            _ => judged,
        };
    }

    /// <summary>What stands at the low-voltage input: dead, turned round, of the wrong kind, or volts in their window.</summary>
    public static Judged SupplyVolts(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var volts = ((NumberValue)value).Value;
        if (c.Facts.Supply is not { } supply)
            return GeneralJudges.Window(c, value, window, accuracy, takenAt);
        var stray = c.Counting.Number(KnownChecks.SupplyStray, c.Key.On) ?? 0;
        var found =
            supply.Range == SupplyRange.V24Ac
                ? LowVoltage.Polarity(stray, Math.Abs(volts), supply.Range)
                : LowVoltage.Polarity(volts, Math.Abs(stray), supply.Range);
        return found is PolarityVerdict.Ok or PolarityVerdict.Low or PolarityVerdict.High
            ? GeneralJudges.Window(
                c,
                value is NumberValue n && supply.Range == SupplyRange.V24Ac ? n with { Value = Math.Abs(volts) } : value,
                window,
                accuracy,
                takenAt
            )
            : new(State.Out, null, accuracy?.HalfWidthAt(volts), [new("supply." + Codes.Of(found))]);
    }

    /// <summary>Too early is wait; too late is a fault.</summary>
    public static Judged Boot(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var judged = GeneralJudges.Window(c, value, window, accuracy, takenAt);
        return window?.Min is { } least && ((NumberValue)value).Value < least
            ? judged with
            {
                State = State.TooClose,
                Because = [new("boot.too-early", Message.Number(least, 0))],
            }
            : judged;
    }

    /// <summary>The tester's outlet against what hangs on it: its powering port and its low-voltage outlet exclude each other, and each
    /// gives no more than its rating.</summary>
    internal static Judged Outlet(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (line.Of("outlet")?.Word is not { } outlet || line.Of("both")?.Word is not { } both)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, "outlet")));
        if (both == "yes")
            return new(State.Out, null, null, [new("outlet.exclude")]);
        if (outlet == "none")
            return new(State.In, null, null, [new("outlet.none")]);
        if ((line.Of("watts")?.Number ?? c.MostWatts) is not { } watts)
            return GeneralJudges.NotJudged(new Message("outlet.no-watts"));
        var rating = outlet == "powering-port" ? c.Catalogue.Figure("tester.poe-watts") : c.Catalogue.Figure("tester.dc-amperes") * 12;
        var text = new Message("outlet.load", Message.Number(watts, 1), Message.Number(watts / 12, 1), Message.Number(rating, 1));
        return Decision.AtMost(watts, rating)
            ? new(State.In, null, null, [text])
            : new(State.Out, null, null, [new("outlet.over", Message.Number(watts - rating, 1)), text]);
    }

    /// <summary>The plate of the low-voltage supply: its sort of current and its volts against what the device takes, its amperes, less
    /// what is kept back, against everything that hangs on it at its heaviest.</summary>
    internal static Judged Plate(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        var line = ((FormValue)value).Lines[0];
        if (c.Check.Fields.FirstOrDefault(f => !f.Optional && line.Of(f.Id) is null) is { } missing)
            return GeneralJudges.NotJudged(new Message("form.not-said", FormJudges.Name(c, missing.Id)));
        if (c.Facts.Supply is not { } supply)
            return GeneralJudges.NotJudged(new Message("missing.supply"));
        var (volts, amperes) = (line.Of("volts")!.Number!.Value, line.Of("amperes")!.Number!.Value);
        var because = ImmutableArray.CreateBuilder<Message>();
        var alternating = supply.Range == SupplyRange.V24Ac;
        if (line.Of("current")!.Word == "ac" != alternating)
            because.Add(new(alternating ? "plate.direct" : "plate.alternating"));
        var (least, most) = LowVoltage.RangeOf(supply.Range);
        if (!Decision.AtMost(least, volts) || !Decision.AtMost(volts, most))
            because.Add(new("plate.volts", Message.Number(volts), Message.Number(least), Message.Number(most)));
        if (line.Of("plug")?.Word == "reversed")
            because.Add(new("plate.reversed"));
        var watts = SupplyRun.WattsOf(supply, c.Catalogue, null);
        var isKnown = !watts.IsEmpty && watts.All(w => w is not null) && volts > 0;
        if (isKnown && amperes > 0)
        {
            var loading = LowVoltage.SupplyAndFuse(
                [.. watts.Select(w => w!.Value / volts)],
                amperes,
                c.Catalogue.Figure("supply.derating")
            );
            because.Add(
                new(
                    loading.SupplyOk ? "plate.enough" : "plate.short",
                    Message.Number(loading.TotalAmperes),
                    Message.Number(loading.UsableAmperes),
                    Message.Number(watts.Length, 0)
                )
            );
            return new(loading.SupplyOk && because.Count == 1 ? State.In : State.Out, null, null, because.ToImmutable());
        }
        if (because.Count > 0)
            return new(State.Out, null, null, because.ToImmutable());
        return GeneralJudges.NotJudged(new Message("plate.load-unknown"));
    }

    /// <summary>The budget of the source that feeds the device, as it stands for its port; nobody enters it.</summary>
    internal static Judged Budget(RowContext c, ReadingValue value, LimitWindow? window, Accuracy? accuracy, DateTimeOffset takenAt)
    {
        if (c.Facts.Runs.All(r => r.Port is null))
            return GeneralJudges.NotJudged(new Message("budget.row.no-port"));
        if (c.Facts.Runs.Select(r => r.Port).FirstOrDefault(p => p?.Source is not null) is not { } port)
            return GeneralJudges.NotJudged(new Message("budget.row.unknown"));
        var (state, why) = SiteBudget.StandingOf(port.Source!.BudgetWith(c.Facts, c.Catalogue), port.Number);
        return state == State.NotTaken ? GeneralJudges.NotJudged(new Message("budget.row.unknown"), why) : new(state, null, null, [why]);
    }
}
