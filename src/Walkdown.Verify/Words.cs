using System.Text;

namespace Walkdown.Verify;

/// <summary>The words of the cases for the names of Core, both ways: <c>OneConductor</c> is <c>one_conductor</c>.</summary>
public static class Words
{
    private static readonly Dictionary<string, string> Special = new()
    {
        ["SuspectPairs45Or78"] = "suspect_pairs_4-5_or_7-8",
        ["MeasuredAboveSource"] = "measured_above_source_check_the_source_voltage",
        ["VoltageBelowMinimum"] = "voltage_below_minimum",
        ["DeviceVoltageVerdict.NoSolution"] = "no_solution_the_run_cannot_carry_the_load",
        ["Outcome.TooClose"] = "too_close_to_call",
        ["CheckOutcome.TooClose"] = "too_close_to_call",
        ["Rg59"] = "rg59_solid_copper",
        ["Rg6"] = "rg6_solid_copper",
        ["Rg11"] = "rg11_solid_copper",
        ["AnalogueHd1Mp"] = "analogue_hd_1mp",
        ["AnalogueHd2Mp"] = "analogue_hd_2mp",
        ["AnalogueHd5Mp"] = "analogue_hd_5mp",
        ["AnalogueHd8Mp"] = "analogue_hd_8mp",
        ["Lines525"] = "525_line",
        ["Lines625"] = "625_line",
        ["LevelVerdict.Low"] = "low_check_aim_polarisation_obstruction",
        ["LevelVerdict.TooClose"] = "too_close_to_call",
        ["LevelVerdict.TooStrong"] = "too_strong_receiver_may_overload",
        ["LevelVerdict.Higher"] = "higher_than_predicted_check_the_inputs",
        ["Level0"] = "0",
        ["Level1"] = "1",
        ["Level5"] = "5",
        ["Level6"] = "6",
        ["Level10"] = "10",
        ["Edition2014"] = "edition_2014",
        ["Edition2025"] = "edition_2025",
        ["Of50"] = "50",
        ["Of60"] = "60",
        ["V12Dc"] = "12_v_dc",
        ["V24Ac"] = "24_v_ac",
        ["V24Dc"] = "24_v_dc",
        ["Verdict.Open"] = "incomplete",
        ["Verdict.Refused"] = "fail",
        ["Verdict.Accepted"] = "pass",
    };

    public static string Of(Enum value)
    {
        var name = value.ToString();
        return Special.TryGetValue($"{value.GetType().Name}.{name}", out var word) || Special.TryGetValue(name, out word)
            ? word
            : Snake(name);
    }

    public static T? Parse<T>(string word)
        where T : struct, Enum
    {
        foreach (var value in Enum.GetValues<T>())
            if (Of(value) == word)
                return value;
        return null;
    }

    private static string Snake(string name)
    {
        var text = new StringBuilder();
        for (var i = 0; i < name.Length; i++)
        {
            if (i > 0 && char.IsUpper(name[i]))
                text.Append('_');
            text.Append(char.ToLowerInvariant(name[i]));
        }
        return text.ToString();
    }
}
