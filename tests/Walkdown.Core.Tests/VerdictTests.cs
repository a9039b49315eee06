using CsCheck;
using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using static Walkdown.Core.Acceptance.DeviceVerdict;

namespace Walkdown.Core.Tests;

public sealed class VerdictTests
{
    private static readonly Gen<CheckLine> Line = Gen.Select(
            Gen.Bool,
            Gen.Enum<CheckOutcome>(),
            Gen.Bool,
            Gen.Bool,
            Gen.OneOfConst<string?>(null, "", "Odile")
        )
        .Select(
            (required, outcome, reason, calibration, by) => new CheckLine("", required, outcome, reason ? "why" : null, calibration, by)
        );

    private static readonly Gen<CheckLine[]> Lines = Line.Array[0, 12]
        .Select(lines => lines.Select((line, i) => line with { Id = "K" + i }).ToArray());

    private static readonly Gen<FaultLine[]> Faults = Gen.Select(
            Gen.Enum<Severity>(),
            Gen.Enum<FaultStanding>(),
            Gen.OneOfConst<string?>(null, " ", "Odile")
        )
        .Select((severity, state, by) => new FaultLine("", severity, state, by))
        .Array[0, 4]
        .Select(faults => faults.Select((fault, i) => fault with { Id = "F" + i }).ToArray());

    [Fact]
    public void RefusedExactlyWhereSomethingFails() =>
        Gen.Select(Lines, Faults)
            .Sample(
                (checks, faults) =>
                {
                    var result = Derive(checks, faults);
                    var fails =
                        checks.Any(c =>
                            c is { Required: true, Outcome: CheckOutcome.Out, CalibrationOk: true }
                            && string.IsNullOrWhiteSpace(c.ConcededBy)
                        )
                        || faults.Any(f =>
                            f.Severity != Severity.Minor
                            && (
                                f.State == FaultStanding.Open
                                || (f.State == FaultStanding.Conceded && string.IsNullOrWhiteSpace(f.ConcededBy))
                            )
                        );
                    return (result.Verdict == Verdict.Refused) == fails;
                }
            );

    [Fact]
    public void NothingIsAcceptedThatWasNotTested() =>
        Lines.Sample(checks =>
        {
            var made = checks.Any(c => c.Outcome is CheckOutcome.In or CheckOutcome.Out or CheckOutcome.TooClose);
            return made || Derive(checks, []).Verdict is Verdict.Open;
        });

    [Fact]
    public void OneMoreGoodCheckNeverMakesItWorse() =>
        Gen.Select(Lines, Faults)
            .Sample(
                (checks, faults) =>
                    Rank(Derive([.. checks, new CheckLine("good", true, CheckOutcome.In)], faults).Verdict)
                    >= Rank(Derive(checks, faults).Verdict)
            );

    [Fact]
    public void OneMoreOpenMajorFaultAlwaysRefuses() =>
        Lines.Sample(checks => Derive(checks, [new FaultLine("F", Severity.Major, FaultStanding.Open)]).Verdict == Verdict.Refused);

    [Fact]
    public void AnIdTwiceIsRefused() =>
        Assert.Throws<BadInputException>(() =>
            Derive([new CheckLine("A", true, CheckOutcome.In), new CheckLine("A", true, CheckOutcome.In)], [])
        );

    private static int Rank(Verdict verdict) =>
        verdict switch
        {
            Verdict.Refused => 0,
            Verdict.Open => 1,
            Verdict.AcceptedWithNote => 2,
            _ => 3,
        };
}
