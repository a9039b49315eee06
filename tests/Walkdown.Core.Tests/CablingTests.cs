using CsCheck;
using Walkdown.Core.Cabling;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;

namespace Walkdown.Core.Tests;

public sealed class CablingTests
{
    private static readonly Gen<int[]> Permutation = Gen.Shuffle(new[] { 1, 2, 3, 4, 5, 6, 7, 8 });

    [Fact]
    public void MoreLengthNeverRaisesTheVoltage() =>
        Gen.Select(Gen.Double[1, 90], Gen.Double[0.1, 20], Gen.Double[1, 25])
            .Sample(
                (metres, more, watts) =>
                {
                    double? Volts(double length) =>
                        DeviceVoltage.Solve(
                            54,
                            watts,
                            DeviceVoltage.PowerLoopOhms(Conductor.PairLoopOhms(24, length, 20, ConductorMaterial.SolidCopper), 2)
                        );
                    return Volts(metres + more) <= Volts(metres);
                }
            );

    [Fact]
    public void ThinnerOrLongerNeverLowersTheResistance() =>
        Gen.Select(Gen.Double[10, 38], Gen.Double[0.01, 2], Gen.Double[1, 90], Gen.Double[0, 10])
            .Sample(
                (gauge, thinner, metres, more) =>
                    Conductor.PairLoopOhms(gauge + thinner, metres + more, 20, ConductorMaterial.SolidCopper)
                    >= Conductor.PairLoopOhms(gauge, metres, 20, ConductorMaterial.SolidCopper)
            );

    [Fact]
    public void LengthComesBackFromItsLoop() =>
        Gen.Select(Gen.Double[1, 300], Gen.Int[22, 26], Gen.Double[-20, 60])
            .Sample(
                (metres, gauge, temperature) =>
                    Math.Abs(
                        Conductor.LengthFromLoopMetres(
                            Conductor.PairLoopOhms(gauge, metres, temperature, ConductorMaterial.SolidCopper),
                            gauge,
                            temperature,
                            ConductorMaterial.SolidCopper
                        ) - metres
                    )
                    < 1e-9 * metres + 1e-9
            );

    [Fact]
    public void OnlyTheIdentityIsStraight() =>
        Permutation.Sample(far =>
            WireMap.Analyse(WireMapReading.FromFarPins(far)).IsStraight == far.SequenceEqual([1, 2, 3, 4, 5, 6, 7, 8])
        );

    [Fact]
    public void WhateverIsWrongHasAPlaceToLookAt() =>
        Gen.Int[0, 8]
            .Array[8]
            .Sample(far =>
            {
                var map = WireMap.Analyse(WireMapReading.FromFarPins(far));
                return map.IsStraight == (map.LookFirst == LookAt.Nowhere) && map.Classes.Length > 0;
            });

    [Fact]
    public void TheExplanationOfAMapRebuildsTheMap() =>
        Gen.Select(Permutation, Gen.Bool.Array[8])
            .Sample(
                (far, open) =>
                {
                    // A permutation with some conductors open.
                    var given = far.Select((pin, i) => open[i] ? 0 : pin).ToArray();
                    var told = WireMap.Analyse(WireMapReading.FromFarPins(given));
                    var rebuilt = Enumerable.Range(1, 8).ToArray();
                    foreach (var landing in told.Displaced)
                        rebuilt[landing.Near - 1] = landing.Far;
                    foreach (var pin in told.OpenNearPins)
                        rebuilt[pin - 1] = 0;
                    return rebuilt.SequenceEqual(given) && told.FarPinsNotSeen.SequenceEqual(Enumerable.Range(1, 8).Except(given));
                }
            );

    [Fact]
    public void AShortIsToldWithEveryPinOfItsNode() =>
        Gen.Select(Gen.Int[1, 8], Gen.Int[1, 8])
            .Where((a, b) => a != b)
            .Sample(
                (a, b) =>
                {
                    var told = WireMap.Analyse(
                        new WireMapReading(
                            Enumerable.Range(1, 8).ToDictionary(n => n, n => (IReadOnlyCollection<int>)(n == a || n == b ? [a, b] : [n]))
                        )
                    );
                    var node = Assert.Single(told.Shorts);
                    return node.NearPins.SequenceEqual(new[] { a, b }.Order())
                        && node.FarPins.SequenceEqual(node.NearPins)
                        && told.Displaced.IsEmpty;
                }
            );

    [Fact]
    public void FasterLinksNeverNeedLess() =>
        Permutation.Sample(far =>
        {
            var links = WireMap.Analyse(WireMapReading.FromFarPins(far)).Links;
            return links.Base1000 == Ability.No || links.Base100 != Ability.No;
        });

    [Fact]
    public void AWindingShortKillsItsPairSet() =>
        Permutation.Sample(far =>
        {
            // Second route: set A fails by a winding exactly where a far pair gets one conductor of each polarity.
            var minus = new[] { far[0], far[1] }.Select(PinPair.Of).ToHashSet();
            var shorted = new[] { far[2], far[5] }.Select(PinPair.Of).Any(minus.Contains);
            return shorted
                == (WireMap.Analyse(WireMapReading.FromFarPins(far)).Power.AReason == PairSetReason.SupplyShortedThroughFarEndWinding);
        });

    [Fact]
    public void CopperCladAndAThinnerGaugeAreBothNamed()
    {
        var found = MaterialInference.Infer(16.08, 60, 20, 24);
        Assert.Equal(MaterialVerdict.WrongMaterialOrGaugeSuspected, found.Verdict);
        Assert.Contains(found.Candidates, c => c is { GaugeAwg: 24, Material: ConductorMaterial.CopperCladAluminium });
        Assert.Contains(found.Candidates, c => c is { GaugeAwg: 26, Material: ConductorMaterial.SolidCopper });
    }

    [Theory]
    [InlineData(double.NaN)]
    [InlineData(double.PositiveInfinity)]
    [InlineData(-1)]
    public void RefusesAnImpossibleLength(double metres) =>
        Assert.Throws<BadInputException>(() => Conductor.PairLoopOhms(24, metres, 20, ConductorMaterial.SolidCopper));

    [Fact]
    public void AShieldThatWasNotMeasuredCannotBeExpected() =>
        Assert.Throws<BadInputException>(() =>
            WireMap.Analyse(WireMapReading.FromFarPins([1, 2, 3, 4, 5, 6, 7, 8]), new WireMapContext { ShieldExpected = true })
        );
}
