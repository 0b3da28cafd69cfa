#include "cli/command.h"

#include <iostream>

int main(int count, char** words) {
    return pyro::cli::run(std::vector<std::string>(words + 1, words + count), std::cout, std::cerr);
}
